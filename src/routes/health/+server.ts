import { json, type RequestEvent } from '@sveltejs/kit';
import { allowAnyone } from '$server/access/allow';
import { answers } from '$server/db/connect';

/** Whether this process and its database answer. */
export const GET = allowAnyone('enter', async (_event: RequestEvent, { app }) =>
  (await answers(app.db))
    ? json({ status: 'well' })
    : json({ status: 'the database does not answer' }, { status: 503 }),
);
