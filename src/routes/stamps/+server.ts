import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { LONGEST_WORD, MOST_BYTES } from '$core/stamps/stamp';
import { allowPerson } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { addStamp, changeStamp, readStamps } from '$server/phrasebook/stamps';

const word = z
  .string()
  .trim()
  .min(1, 'A stamp needs a word.')
  .max(LONGEST_WORD, `The word of a stamp has at most ${LONGEST_WORD} characters.`);
const Deed = z.union([
  z.strictObject({ word, picture: z.base64().max(Math.ceil((MOST_BYTES * 4) / 3) + 8) }),
  z.strictObject({ id: z.uuid(), word }),
  z.strictObject({ id: z.uuid(), away: z.boolean() }),
]);

/** The stamps of one's own. */
export const GET = allowPerson('keep a phrasebook', async (_event: RequestEvent, { app, grant }) =>
  json(await readStamps(app.db, grant)),
);

/** Adds one, changes its word, removes it or brings it back. */
export const POST = allowPerson(
  'keep a phrasebook',
  async ({ request }: RequestEvent, { app, grant }) => {
    const deed = await readJson(request, Deed);
    if ('picture' in deed) {
      const picture = Buffer.from(deed.picture, 'base64');
      await addStamp(app, grant, { word: deed.word, picture });
    } else await changeStamp(app, grant, deed);
    return json(await readStamps(app.db, grant));
  },
);
