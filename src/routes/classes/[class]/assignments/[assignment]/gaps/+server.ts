import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { giveTo, Given } from '$server/handout/joiners';
import { acceptLoss, removeCopies } from '$server/headcount/mend';
import { readJson } from '$server/http/body';

const GapMove = z.discriminatedUnion('move', [
  z.object({ move: z.literal('give'), students: z.array(z.uuid()).min(1).max(500) }),
  z.object({ move: z.literal('remove'), given: Given }),
  z.object({ move: z.literal('accept'), copy: z.uuid() }),
]);

/** Mends a gap of the headcount in one class, or undoes that. What mending gave is answered. */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) => {
    const asked = await readJson(request, GapMove);
    if (asked.move === 'give') return json(await giveTo(app, grant, asked.students, new Date()));
    if (asked.move === 'remove') await removeCopies(app, grant, asked.given, new Date());
    else await acceptLoss(app, grant, asked.copy);
    return json({ copies: [], places: [] });
  },
);
