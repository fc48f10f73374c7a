import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { decideProposals, DEEDS } from '$server/copy/decide-proposals';
import { readOpenMargin } from '$server/copy/threads';
import { readJson } from '$server/http/body';

const Decided = z.object({ deed: z.enum(DEEDS), ids: z.array(z.uuid()).min(1).max(200) });

/** A student takes proposals into their copy, leaves them, or undoes that. */
export const POST = allowOnPage(
  'do own work',
  async ({ request }: RequestEvent, { app, grant }) => {
    const sentence = await decideProposals(app, grant, await readJson(request, Decided));
    return json({ ...(await readOpenMargin(app, grant)), sentence });
  },
);
