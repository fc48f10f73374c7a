import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { keepExample, NewExample, readExamples } from '$server/copy/examples';
import { readJson } from '$server/http/body';

/** The examples of the rubric that the assignment is scored by. */
export const GET = allowOnAssignment(
  'mark its copies',
  async (_event: RequestEvent, { app, grant }) => json(await readExamples(app.db, grant)),
);

/** Keeps a copy as an example of a step. */
export const POST = allowOnAssignment(
  'mark its copies',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await keepExample(app, grant, await readJson(request, NewExample)), { status: 201 }),
);
