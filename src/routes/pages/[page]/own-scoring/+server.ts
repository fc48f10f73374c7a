import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { scoreOwn, viewOwnScoring } from '$server/copy/own-scoring';
import { NewStudentScoring } from '$server/copy/student-scoring';
import { readJson } from '$server/http/body';

/** The rubric that a student scores their own copy by, and what they gave it last. */
export const GET = allowOnPage('see own copy', async (_event: RequestEvent, { app, grant }) =>
  json(await viewOwnScoring(app.db, grant)),
);

/** Scores one’s own copy. */
export const POST = allowOnPage('do own work', async ({ request }: RequestEvent, { app, grant }) =>
  json(await scoreOwn(app, grant, await readJson(request, NewStudentScoring)), { status: 201 }),
);
