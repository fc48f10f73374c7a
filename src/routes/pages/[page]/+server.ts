import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { log } from '$server/log';

/** The page at its newest version; asked for by a browser that found its own page to differ. */
export const GET = allowOnPage('read the page', async ({ url }: RequestEvent, { app, thing }) => {
  if (url.searchParams.get('because') === 'differs')
    log.error(
      { page: thing.id, version: thing.version },
      "a browser's page differed from the log's",
    );
  const held = await app.pages.open(thing.id);
  return json({ doc: held.doc.toJSON(), version: held.version });
});
