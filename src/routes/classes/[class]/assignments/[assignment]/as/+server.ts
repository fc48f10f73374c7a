import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { readStudents } from '$server/class/board';
import { whatSheHas, assignmentIn } from '$server/handout/view-assignment';
import { Refusal } from '$server/page/refusal';

/** What a student of the class really has of an assignment. */
export const GET = allowInClass(
  'see the class',
  async ({ params, url }: RequestEvent, { app, thing }) => {
    const assignment = await assignmentIn(app.db, params.assignment, thing.id);
    const student = url.searchParams.get('student') ?? '';
    if (!(await readStudents(app.db, thing.id)).some(({ id }) => id === student))
      throw new Refusal(404, 'This student is not in the class.');
    return json(await whatSheHas(app, assignment, student));
  },
);
