import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import type { Grant } from '$server/access/grant';
import { NewScore, handBack, score, scoreApart, settle } from '$server/copy/marking';
import { looked } from '$server/copy/moves';
import { readJson } from '$server/http/body';
import type { Using } from '$server/services';

/** The last score that this person has seen; null for none. */
const after = z.string().max(20).nullable().optional();
const MarkingMove = z.discriminatedUnion('move', [
  z.object({
    move: z.literal('look'),
    handedIn: z.number().nullable(),
    version: z.number().int().min(0),
  }),
  z.object({ move: z.literal('score'), given: NewScore, after }),
  /** As one of two, who do not see what the other gives. */
  z.object({ move: z.literal('score apart'), given: NewScore, after }),
  /** What counts of two scorings. */
  z.object({
    move: z.literal('settle'),
    given: NewScore,
    of: z.array(z.string().max(20)).length(2),
  }),
  /** With the score that it has, where none is given. */
  z.object({ move: z.literal('hand back'), given: NewScore.nullable(), after }),
]);

/** What the staff do with a copy: look inside, score, for the staff alone or together with handing back. */
export const POST = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  const asked = await readJson(request, MarkingMove);
  return json({ score: await move(app, grant, asked) });
});

/** @returns the score that was given or went back: its id, or null for none */
async function move(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  asked: z.infer<typeof MarkingMove>,
): Promise<string | null> {
  switch (asked.move) {
    case 'look':
      await looked(app, grant, asked.handedIn, asked.version);
      return null;
    case 'score':
      return score(app, grant, asked);
    case 'score apart':
      return scoreApart(app, grant, asked);
    case 'settle':
      return settle(app, grant, asked);
    case 'hand back':
      return handBack(app, grant, asked.given && { given: asked.given, after: asked.after });
  }
}
