import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { tellHere } from '$server/live/here';

/** Who may write in a page has it open, or has left it. */
export const POST = allowOnPage(
  'write the page',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { here } = await readJson(request, z.object({ here: z.boolean() }));
    await tellHere(app, grant, here);
    return json({});
  },
);
