import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { StepsMessage } from '$core/page/protocol';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** What happened to the page since a version. */
export const GET = allowOnPage('read the page', async ({ url }: RequestEvent, { app, thing }) => {
  const since = z.coerce.number().int().min(0).safeParse(url.searchParams.get('since'));
  if (!since.success) throw new Refusal(400, 'The request does not say since which version.');
  return json(await app.pages.newsSince(thing.id, since.data));
});

/** Appends steps, brought up to date; answers them with all that others did since the client's version. */
export const POST = allowOnPage(
  'write the page',
  async ({ request }: RequestEvent, { app, person, thing, relation }) => {
    const message = await readJson(request, StepsMessage);
    const writer = { id: person.id, owner: relation === 'owner' };
    return json(await app.pages.append(thing.id, writer, message));
  },
);
