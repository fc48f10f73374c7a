import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { rubricFromRows } from '$core/formats/rubric-table';
import { readRubric } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { may } from '$server/access/table';
import { beginRubric, findRubric, writeRubric } from '$server/course/rubrics';
import { readForm, saying } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async ({ params }: PageServerLoadEvent, { app, thing, relation }) => {
    const rubric = await findRubric(app.db, thing.id, params.rubric);
    if (!rubric) error(404, 'This rubric is not in the course any more.');
    return {
      trail: [
        { title: 'Courses', to: '/courses' },
        { title: thing.title, to: `/courses/${thing.id}` },
        { title: rubric.title },
      ],
      ...{ course: thing.id, rubric: rubric.id, title: rubric.title },
      table: readRubric(rubric.body),
      version: rubric.version,
      mayWrite: may('write the course', relation),
    };
  },
);

/** One column of a table wide, and enough for 40 criteria. */
const MOST_BYTES = 2_000_000;

export const actions = {
  copy: allowInCourse(
    'write the course',
    saying(async ({ params }: RequestEvent, { app, person, thing }) => {
      const rubric = await findRubric(app.db, thing.id, params.rubric);
      if (!rubric) error(404, 'This rubric is not in the course any more.');
      const made = await beginRubric(
        app.db,
        {
          ...{ course: thing.id, school: thing.school_id, unit: rubric.unit_id, by: person.id },
          title: `${rubric.title}, copied`.slice(0, 300),
        },
        readRubric(rubric.body),
      );
      redirect(303, `/courses/${thing.id}/rubrics/${made}`);
    }),
  ),
  read: allowInCourse(
    'write the course',
    saying(async ({ request, params }: RequestEvent, { app, person, thing }) => {
      const { table: file } = await readForm(
        request,
        z.object({ table: z.instanceof(File, { message: 'Choose a table first.' }) }),
      );
      const rubric = await findRubric(app.db, thing.id, params.rubric);
      if (!rubric) error(404, 'This rubric is not in the course any more.');
      if (file.size > MOST_BYTES)
        return fail(413, { sentence: 'This table is larger than 2 MB. Is it the rubric?' });
      const rows = await app.reader.read({
        ...{ kind: 'table', name: file.name },
        bytes: new Uint8Array(await file.arrayBuffer()),
      });
      const read = rubricFromRows(rows, () => crypto.randomUUID().slice(0, 8));
      if ('faults' in read)
        return fail(422, {
          sentence: 'The table is not a rubric yet; the one below is as it was.',
          faults: read.faults.slice(0, 50),
        });
      const saved = await writeRubric(app.db, thing.id, rubric.id, {
        ...{ title: rubric.title, table: read.table, version: rubric.version, by: person.id },
      });
      if ('theirs' in saved)
        throw new Refusal(
          409,
          'Somebody saved this rubric meanwhile. Please read the table again.',
        );
    }),
  ),
};
