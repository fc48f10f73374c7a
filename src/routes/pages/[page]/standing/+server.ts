import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { readOwnStanding } from '$server/copy/own-work';

/** How a student's own copy stands: its state's facts, and the points it was handed back with. */
export const GET = allowOnPage('do own work', async (_event: RequestEvent, { app, grant }) =>
  json(await readOwnStanding(app.db, grant)),
);
