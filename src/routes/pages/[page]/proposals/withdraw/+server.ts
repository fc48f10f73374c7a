import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { withdrawProposals } from '$server/copy/propose';
import { readOpenMargin } from '$server/copy/threads';
import { readJson } from '$server/http/body';

const Withdrawn = z.object({ ids: z.array(z.uuid()).min(1).max(200) });

/** Takes back what one proposed oneself. */
export const POST = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  await withdrawProposals(app, grant, (await readJson(request, Withdrawn)).ids);
  return json(await readOpenMargin(app, grant));
});
