import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { StepsMessage } from '$core/page/protocol';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';
import { appendSteps, newsSince } from '$server/page/exchange';

/** What happened to the page since a version. */
export const GET = allowOnPage('read the page', async ({ url }: RequestEvent, { app, grant }) => {
  const since = z.coerce.number().int().min(0).safeParse(url.searchParams.get('since'));
  if (!since.success) throw new Refusal(400, 'The request does not say since which version.');
  return json(await newsSince(app, grant, since.data));
});

/** Appends steps, brought up to date; answers them with all that others did since the client's version. */
export const POST = allowOnPage(
  'write the page',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await appendSteps(app, grant, await readJson(request, StepsMessage))),
);
