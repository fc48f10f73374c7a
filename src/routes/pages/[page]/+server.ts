import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { openNewest } from '$server/page/exchange';

/** The page at its newest version; asked for by a browser that found its own page to differ. */
export const GET = allowOnPage('read the page', async ({ url }: RequestEvent, { app, grant }) =>
  json(await openNewest(app, grant, url.searchParams.get('because') === 'differs')),
);
