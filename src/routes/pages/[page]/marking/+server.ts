import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { readPoints } from '$core/marking/points';
import { allowOnPage } from '$server/access/allow';
import { handBack, looked, readMarked, score } from '$server/copy/moves';
import { readJson } from '$server/http/body';

const points = z
  .string()
  .transform((text) => readPoints(text))
  .pipe(z.string('Points are a number such as 6, 6½ or 6.5.'));
const MarkingMove = z.discriminatedUnion('move', [
  z.object({ move: z.literal('look'), handedIn: z.number().nullable() }),
  z.object({ move: z.literal('score'), points }),
  z.object({ move: z.literal('hand back'), points: points.nullable() }),
]);

/** What the staff do with a copy: look inside, give points, for the staff alone or together with handing back. */
export const POST = allowOnPage('mark', async ({ request }: RequestEvent, { app, grant }) => {
  const asked = await readJson(request, MarkingMove);
  if (asked.move === 'look') await looked(app, grant, asked.handedIn);
  else if (asked.move === 'score') await score(app, grant, asked.points);
  else await handBack(app, grant, asked.points);
  return json(await readMarked(app.db, grant));
});
