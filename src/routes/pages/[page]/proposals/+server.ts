import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { propose } from '$server/copy/propose';
import { readOpenMargin } from '$server/copy/threads';
import { readJson } from '$server/http/body';

const NewProposals = z.object({
  version: z.number().int().min(0),
  proposals: z
    .array(
      z.object({
        steps: z
          .array(z.looseObject({ stepType: z.string() }))
          .min(1)
          .max(500),
      }),
    )
    .min(1)
    .max(100),
  keptBack: z.boolean().default(false),
});

/** Offers changes of a copy. */
export const POST = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  const made = await readJson(request, NewProposals);
  await app.limits.count('proposal', grant.person.id);
  await propose(app, grant, made);
  return json(await readOpenMargin(app, grant), { status: 201 });
});
