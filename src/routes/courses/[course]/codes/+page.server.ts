import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { codesFromCase, codesFromCsv } from '$core/formats/code-list';
import { allowInCourse } from '$server/access/allow';
import { may } from '$server/access/table';
import { keepCodes, readCodes, readLedAssignments, readTagged } from '$server/course/codes';
import { readRubrics } from '$server/course/rubrics';
import { readListedPages } from '$server/course/units';
import { readForm, saying } from '$server/http/form';
import { decodeText } from '$server/import/tables';
import { readRubric } from '$core/marking/rubric';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async (_event: PageServerLoadEvent, { app, person, thing, relation }) => {
    const rubrics = await readRubrics(app.db, thing.id);
    return {
      trail: [
        { title: 'Courses', to: '/courses' },
        { title: thing.title, to: `/courses/${thing.id}` },
        { title: 'Codes' },
      ],
      course: thing,
      codes: await readCodes(app.db, thing.school_id),
      tagged: await readTagged(app.db, thing.id),
      pages: (await readListedPages(app.db, { course: thing.id })).map(({ id, title }) => ({
        id,
        title,
      })),
      criteria: rubrics.flatMap((rubric) =>
        readRubric(rubric.body).criteria.map(({ id, title }) => ({
          ...{ rubric: rubric.id, criterion: id, title: `${title}, in ${rubric.title}` },
        })),
      ),
      assignments: await readLedAssignments(app.db, thing.id, person.id),
      mayWrite: may('write the course', relation),
    };
  },
);

const MOST_BYTES = 20_000_000;

export const actions = {
  read: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, person }) => {
      const { list } = await readForm(
        request,
        z.object({ list: z.instanceof(File, { message: 'Choose a list first.' }) }),
      );
      if (list.size > MOST_BYTES) return fail(413, { sentence: 'This list is larger than 20 MB.' });
      const text = decodeText(Buffer.from(await list.arrayBuffer()));
      const named = list.name.replace(/\.[a-z]+$/i, '');
      const read = /^\s*\{/.test(text) ? codesFromCase(text) : codesFromCsv(named, text);
      if ('fault' in read) return fail(422, { sentence: read.fault });
      await keepCodes(app.db, person, { ...read, title: read.title || named });
      return { kept: read.codes.length, passed: read.passed.slice(0, 20) };
    }),
  ),
};
