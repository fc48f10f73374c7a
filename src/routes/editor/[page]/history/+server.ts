import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { viewHistory } from '$server/history/look-back';
import { HistoryMove, moveInHistory } from '$server/history/put-back';
import { readJson } from '$server/http/body';

/** How an original was written. */
export const GET = allowOnPage('manage the page', async (_event: RequestEvent, { app, grant }) =>
  json(await viewHistory(app, grant)),
);

export const POST = allowOnPage(
  'manage the page',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await moveInHistory(app, grant, await readJson(request, HistoryMove))),
);
