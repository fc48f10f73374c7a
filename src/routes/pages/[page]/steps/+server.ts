import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { StepsMessage } from '$core/page/protocol';
import { allowOnPage } from '$server/access/allow';
import type { PageThing } from '$server/access/relation';
import type { Relation } from '$server/access/table';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** For students the history of a page begins where it came into their sight. @throws Refusal for what was before */
function checkSeen({ thing, relation }: { thing: PageThing; relation: Relation }, since: number) {
  const isStudent = relation === 'reader' || relation === 'co-writer';
  if (isStudent && since < thing.seen_from)
    throw new Refusal(409, 'This page was shown anew. Please open it again.');
}

/** What happened to the page since a version. */
export const GET = allowOnPage('read the page', async ({ url }: RequestEvent, asked) => {
  const { app, thing } = asked;
  const since = z.coerce.number().int().min(0).safeParse(url.searchParams.get('since'));
  if (!since.success) throw new Refusal(400, 'The request does not say since which version.');
  checkSeen(asked, since.data);
  return json(await app.pages.newsSince(thing.id, since.data));
});

/** Appends steps, brought up to date; answers them with all that others did since the client's version. */
export const POST = allowOnPage('write the page', async ({ request }: RequestEvent, asked) => {
  const { app, person, thing, relation } = asked;
  const message = await readJson(request, StepsMessage);
  checkSeen(asked, message.base);
  const writer = { id: person.id, owner: relation === 'owner' || relation === 'writer' };
  return json(await app.pages.append(thing.id, writer, message));
});
