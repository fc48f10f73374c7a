import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { NewScore, handBack, readMarked, score } from '$server/copy/marking';
import { looked } from '$server/copy/moves';
import { readJson } from '$server/http/body';

/** The last score that this person has seen; null for none. */
const after = z.string().max(20).nullable().optional();
const MarkingMove = z.discriminatedUnion('move', [
  z.object({
    move: z.literal('look'),
    handedIn: z.number().nullable(),
    version: z.number().int().min(0),
  }),
  z.object({ move: z.literal('score'), given: NewScore, after }),
  /** With the score that it has, where none is given. */
  z.object({ move: z.literal('hand back'), given: NewScore.nullable(), after }),
]);

/** What the staff do with a copy: look inside, score, for the staff alone or together with handing back. */
export const POST = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  const asked = await readJson(request, MarkingMove);
  if (asked.move === 'look') await looked(app, grant, asked.handedIn, asked.version);
  else if (asked.move === 'score') await score(app, grant, asked);
  else {
    const { given, after: seen } = asked;
    await handBack(app, grant, given && { given, after: seen });
  }
  return json(await readMarked(app.db, grant));
});
