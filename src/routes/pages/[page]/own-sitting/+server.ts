import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readOwnSitting } from '$server/history/own-sitting';
import { Refusal } from '$server/page/refusal';

/** What a person did on a page in their last sitting before a version, to be undone; null where there is none. */
export const GET = allowOnPage('write the page', async ({ url }: RequestEvent, { app, grant }) => {
  const before = z.coerce.number().int().min(0).safeParse(url.searchParams.get('before'));
  if (!before.success) throw new Refusal(400, 'The request does not say before which version.');
  return json(await readOwnSitting(app, grant, before.data));
});
