import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { viewHistory } from '$server/history/look-back';
import { HistoryMove, moveInHistory } from '$server/history/put-back';
import { readJson } from '$server/http/body';

/** How a copy was written. */
export const GET = allowOnPage('look back', async (_event: RequestEvent, { app, grant }) =>
  json(await viewHistory(app, grant)),
);

export const POST = allowOnPage('put back', async ({ request }: RequestEvent, { app, grant }) =>
  json(await moveInHistory(app, grant, await readJson(request, HistoryMove))),
);
