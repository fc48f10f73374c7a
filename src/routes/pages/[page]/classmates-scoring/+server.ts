import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { scoreClassmates, viewClassmatesScoring, withholdScoring } from '$server/copy/classmates';
import { NewStudentScoring } from '$server/copy/student-scoring';
import { readJson } from '$server/http/body';

/** The rubric that a student scores a classmate’s copy by, and what they gave it last. */
export const GET = allowOnPage('score a classmate', async (_event: RequestEvent, { app, grant }) =>
  json(await viewClassmatesScoring(app.db, grant)),
);

/** Scores a classmate’s copy. */
export const POST = allowOnPage(
  'score a classmate',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await scoreClassmates(app, grant, await readJson(request, NewStudentScoring)), {
      status: 201,
    }),
);

const Withheld = z.strictObject({ by: z.uuid(), withheld: z.boolean() });

/** Whether what a classmate gave goes back with the copy. */
export const PUT = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  await withholdScoring(app, grant, await readJson(request, Withheld));
  return json({});
});
