import { json, type RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { find } from '$server/find/find';

/** What a person may see of what they look for, best first. */
export const GET = allowPerson('be signed in', async ({ url }: RequestEvent, { app, person }) => {
  const query = (url.searchParams.get('q') ?? '').slice(0, 200);
  return json({ found: await find(app.db, person, query) });
});
