import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { readOwnFeedback } from '$server/copy/own-work';

/** What a student's own copy was handed back with last, and what they compare it with. */
export const GET = allowOnPage('see own copy', async (_event: RequestEvent, { app, grant }) =>
  json(await readOwnFeedback(app.db, grant)),
);
