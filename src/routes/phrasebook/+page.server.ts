import { z } from 'zod';
import { LONGEST } from '$core/phrasebook/phrase';
import { allowPerson } from '$server/access/allow';
import { formAction, readForm } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import {
  addPhrases,
  changePhrase,
  importPhrases,
  putPhraseAway,
  readOwnCourses,
  readPhrases,
} from '$server/phrasebook/phrases';
import { readStamps } from '$server/phrasebook/stamps';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'keep a phrasebook',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:stamps');
    return {
      trail: [{ title: 'Phrasebook' }],
      phrases: await readPhrases(app.db, grant),
      courses: await readOwnCourses(app.db, grant),
      stamps: await readStamps(app.db, grant),
    };
  },
);

const MOST_BYTES = 5_000_000;
const Text = z
  .string()
  .trim()
  .min(1, 'A phrase needs words.')
  .max(LONGEST, `A phrase has at most ${LONGEST} characters.`);
const Course = z
  .union([z.uuid(), z.literal('')])
  .default('')
  .transform((course) => course || null);

export const actions = {
  add: allowPerson(
    'keep a phrasebook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { text, course } = await readForm(request, z.object({ text: Text, course: Course }));
      const added = await addPhrases(app, grant, [text], course);
      if (added === 0) throw new Refusal(409, 'This phrase is in your phrasebook already.');
    }),
  ),
  change: allowPerson(
    'keep a phrasebook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const shape = z.object({
        id: z.uuid(),
        version: z.coerce.number().int(),
        text: Text,
        course: Course,
      });
      await changePhrase(app, grant, await readForm(request, shape));
    }),
  ),
  away: allowPerson(
    'keep a phrasebook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { id, away } = await readForm(
        request,
        z.object({ id: z.uuid(), away: z.stringbool() }),
      );
      await putPhraseAway(app, grant, id, away);
    }),
  ),
  read: allowPerson(
    'keep a phrasebook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const shape = z.object({
        table: z.instanceof(File, { message: 'Choose a file first.' }),
      });
      const { table } = await readForm(request, shape);
      if (table.size > MOST_BYTES) throw new Refusal(413, 'This file is larger than 5 MB.');
      return importPhrases(app, grant, await table.text());
    }),
  ),
};
