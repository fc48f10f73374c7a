import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { viewOwnStanding } from '$server/copy/view-copy';

/** How a student's own copy stands, and what its assignment says. */
export const GET = allowOnPage('see own copy', async (_event: RequestEvent, { app, grant }) =>
  json(await viewOwnStanding(app, grant)),
);
