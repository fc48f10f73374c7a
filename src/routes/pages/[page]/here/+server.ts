import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { Here, tellHere } from '$server/live/here';

/** Who may write in a page has it open, or has left it. */
export const POST = allowOnPage(
  'write the page',
  async ({ request }: RequestEvent, { app, grant }) => {
    await tellHere(app, grant, await readJson(request, Here));
    return json({});
  },
);
