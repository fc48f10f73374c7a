import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { rubricFromRows } from '$core/formats/rubric-table';
import { allowInCourse } from '$server/access/allow';
import { beginRubric, openRubric, writeRubric } from '$server/course/rubrics';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async ({ params }: PageServerLoadEvent, { app, grant }) => {
    const { id, title, table, version } = await openRubric(app.db, grant, params.rubric);
    const { thing: course } = grant;
    return {
      trail: [
        { title: 'Courses', to: '/courses' },
        { title: course.title, to: `/courses/${course.id}` },
        { title },
      ],
      course: course.id,
      rubric: id,
      title,
      table,
      version,
      mayWrite: grant.may('write the course'),
    };
  },
);

/** One column of a table wide, and enough for 40 criteria. */
const MOST_BYTES = 2_000_000;

export const actions = {
  copy: allowInCourse(
    'write the course',
    formAction(async ({ params }: RequestEvent, { app, grant }) => {
      const { title, unit_id: unit, table } = await openRubric(app.db, grant, params.rubric);
      const copy = { unit, title: `${title}, copied`.slice(0, 300) };
      const made = await beginRubric(app.db, grant, copy, table);
      redirect(303, `/courses/${grant.thing.id}/rubrics/${made}`);
    }),
  ),
  read: allowInCourse(
    'write the course',
    formAction(async ({ request, params }: RequestEvent, { app, grant }) => {
      const { table: file } = await readForm(
        request,
        z.object({ table: z.instanceof(File, { message: 'Choose a table first.' }) }),
      );
      const rubric = await openRubric(app.db, grant, params.rubric);
      if (file.size > MOST_BYTES)
        throw new Refusal(413, 'This table is larger than 2 MB. Is it the rubric?');
      const rows = await app.threads.run({
        kind: 'table',
        name: file.name,
        bytes: new Uint8Array(await file.arrayBuffer()),
      });
      const read = rubricFromRows(rows, () => crypto.randomUUID().slice(0, 8));
      if ('faults' in read)
        throw new Refusal(422, 'The table is not a rubric yet; the one below is as it was.', {
          faults: read.faults.slice(0, 50),
        });
      const saved = await writeRubric(app.db, grant, rubric.id, {
        title: rubric.title,
        table: read.table,
        version: rubric.version,
      });
      if ('theirs' in saved)
        throw new Refusal(
          409,
          'Somebody saved this rubric meanwhile. Please read the table again.',
        );
    }),
  ),
};
