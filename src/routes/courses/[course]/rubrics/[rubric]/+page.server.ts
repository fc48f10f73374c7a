import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { rubricFromRows } from '$core/formats/rubric-table';
import { keepCriteria } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { beginRubric, openRubric, readRubricChanges, takeRubricBack } from '$server/course/rubrics';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async ({ params, depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:rubric');
    const rubric = await openRubric(app.db, grant, params.rubric);
    const { id, title, table, version } = rubric;
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
      changes: await readRubricChanges(app.db, rubric),
      timeZone: await readTimeZone(app.db, course.school_id),
      now: Date.now(),
      mayWrite: grant.may('write the course'),
    };
  },
);

/** One column of a table wide, and enough for 40 criteria. */
const MOST_BYTES = 2_000_000;
const version = z.coerce.number({ error: 'Please open the rubric again.' }).int().min(0);

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
      return { read: keepCriteria(read.table, rubric.table) };
    }),
  ),
  back: allowInCourse(
    'write the course',
    formAction(async ({ request, params }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ before: version, version }));
      await takeRubricBack(app.db, grant, params.rubric ?? '', spec);
    }),
  ),
};
