import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { readStudents } from '$server/class/board';
import { whatSheHas } from '$server/handout/view-assignment';
import { Refusal } from '$server/page/refusal';

/** What a student of the class really has of an assignment. */
export const GET = allowOnAssignment(
  'see the assignment',
  async ({ url }: RequestEvent, { app, thing }) => {
    const student = url.searchParams.get('student') ?? '';
    if (!(await readStudents(app.db, thing.class.id)).some(({ id }) => id === student))
      throw new Refusal(404, 'This student is not in the class.');
    return json(await whatSheHas(app, thing.id, student));
  },
);
