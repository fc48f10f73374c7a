import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { opened } from '$server/copy/moves';

/** A student has opened a copy that they have, to write in or to read. */
export const POST = allowOnPage('see own copy', async (_event: RequestEvent, { app, grant }) => {
  await opened(app, grant);
  return json({});
});
