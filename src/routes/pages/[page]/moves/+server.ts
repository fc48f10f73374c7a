import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readOwnStanding } from '$server/copy/own-work';
import { handIn, takeBack } from '$server/copy/moves';
import { readJson } from '$server/http/body';

const Move = z.discriminatedUnion('move', [
  z.object({ move: z.literal('hand in'), note: z.string().trim().max(1000).default('') }),
  z.object({ move: z.literal('take back') }),
]);

/** The student's own moves. */
export const POST = allowOnPage(
  'do own work',
  async ({ request }: RequestEvent, { app, grant }) => {
    const move = await readJson(request, Move);
    if (move.move === 'hand in') await handIn(app, grant, move.note);
    else await takeBack(app, grant);
    return json(await readOwnStanding(app.db, grant));
  },
);
