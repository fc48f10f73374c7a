import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { giveTo, Given } from '$server/handout/joiners';
import { removeCopies } from '$server/headcount/remove-copies';
import { readJson } from '$server/http/body';

const GapMove = z.discriminatedUnion('move', [
  z.object({ move: z.literal('give'), students: z.array(z.uuid()).min(1).max(500) }),
  z.object({ move: z.literal('remove'), given: Given }),
]);

/** Gives students of one class what they lack, or takes that back. What was given is answered. */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) => {
    const asked = await readJson(request, GapMove);
    if (asked.move === 'give') return json(await giveTo(app, grant, asked.students, new Date()));
    await removeCopies(app, grant, asked.given, new Date());
    return json({ copies: [], places: [] });
  },
);
