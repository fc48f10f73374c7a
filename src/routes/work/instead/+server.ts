import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { readInstead } from '$server/copy/own-work';
import { Refusal } from '$server/page/refusal';

/** What a student has now instead of a page that was theirs. */
export const GET = allowPerson('see own work', async ({ url }: RequestEvent, { app, grant }) => {
  const page = z.uuid().safeParse(url.searchParams.get('of'));
  if (!page.success) throw new Refusal(400, 'The request does not say instead of which page.');
  return json({ page: await readInstead(app, grant, page.data) });
});
