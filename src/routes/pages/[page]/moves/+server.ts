import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readOwnCopy } from '$server/copy/own-work';
import { handIn, takeBack } from '$server/copy/moves';
import { readJson } from '$server/http/body';

const Move = z.discriminatedUnion('move', [
  z.object({ move: z.literal('hand in'), note: z.string().trim().max(1000).default('') }),
  z.object({ move: z.literal('take back') }),
]);

/** The student's own moves. */
export const POST = allowOnPage(
  'do own work',
  async ({ request }: RequestEvent, { app, person, thing }) => {
    const move = await readJson(request, Move);
    const who = { page: thing.id, person: person.id };
    if (move.move === 'hand in') await handIn(app, { ...who, note: move.note });
    else await takeBack(app, who);
    return json(await readOwnCopy(app.db, thing.id, person.id));
  },
);
