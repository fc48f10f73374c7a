import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { lookInside } from '$server/copy/look-inside';

/** A look inside a copy, for the staff. */
export const GET = allowOnPage('look inside', async (_event: RequestEvent, { app, grant }) =>
  json(await lookInside(app, grant)),
);
