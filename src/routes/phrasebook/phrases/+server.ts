import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { LONGEST } from '$core/phrasebook/phrase';
import { allowPerson } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { addPhrases, countUse, readPhrases } from '$server/phrasebook/phrases';

const Deed = z.union([
  z.strictObject({ text: z.string().trim().min(1, 'A phrase needs words.').max(LONGEST) }),
  z.strictObject({ used: z.uuid() }),
]);

/** The phrases that somebody may use, to be found while they type. */
export const GET = allowPerson(
  'keep a phrasebook',
  async (_event: RequestEvent, { app, grant }) => {
    const phrases = await readPhrases(app.db, grant);
    return json(
      phrases.filter(({ away }) => !away).map(({ id, text, used }) => ({ id, text, used })),
    );
  },
);

/** Adds what somebody just wrote, or counts that they used one. */
export const POST = allowPerson(
  'keep a phrasebook',
  async ({ request }: RequestEvent, { app, grant }) => {
    const deed = await readJson(request, Deed);
    if ('used' in deed) await countUse(app, grant, deed.used);
    else await addPhrases(app, grant, [deed.text]);
    return json({});
  },
);
