import { z } from 'zod';
import type { Range } from '$core/history/compare';
import type { Grant } from '../access/grant';
import { isOwnTo } from '../access/table';
import { HOLDERS } from '../copy/holders';
import { inTransaction, type Tx } from '../db/transaction';
import { notify } from '../message/messages';
import { readPage } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { refuseSealed } from '../page/sealed';
import type { Using } from '../services';

const version = z.int().min(0);

/** What is asked for in a page's history. */
export const HistoryMove = z.discriminatedUnion('move', [
  z.object({
    move: z.literal('put back'),
    version,
    /** Places of the page at that version; left out for all of it. */
    passage: z
      .object({ from: z.int().min(0), to: z.int().min(0) })
      .refine(({ from, to }) => from < to, 'Select the words that are to come back.')
      .nullable()
      .default(null),
    /** Whether what was written since stays, below what comes back. */
    keepsSince: z.boolean().default(false),
  }),
  z.object({
    move: z.literal('name'),
    version,
    name: z
      .string()
      .trim()
      .min(1, 'Give this version a name, to find it again.')
      .max(100, 'The name has at most 100 characters.'),
  }),
]);

/** That somebody may put a page back: their own, one of their class's, or one that they keep. */
type MayPutBack = Grant<'put back'> | Grant<'manage the page'>;

/** @throws Refusal */
export async function moveInHistory(
  app: Using<'db' | 'pages'>,
  grant: MayPutBack,
  asked: z.infer<typeof HistoryMove>,
): Promise<{ version?: number }> {
  if (asked.move === 'put back') return putBack(app, grant, asked);
  await nameVersion(app, grant, asked);
  return {};
}

interface PutBackTo {
  version: number;
  passage?: Range | null;
  keepsSince?: boolean;
}

/**
 * Puts a page back as it stood at a version, or a passage of it, as a new step. The students of a copy are notified when one of the staff did it.
 * @returns the version that it made
 * @throws Refusal when it stands like that now, or its person may not write in it now
 */
export async function putBack(
  app: Using<'db' | 'pages'>,
  grant: MayPutBack,
  { version, passage = null, keepsSince = false }: PutBackTo,
): Promise<{ version: number }> {
  const { thing, person, relation } = grant;
  const owner = isOwnTo(relation);
  const now = await app.pages.open(thing.id);
  if (version > now.version) throw new Refusal(404, 'This page has no such version yet.');
  const then = await readPage(app.db, { ...thing, version: now.version }, version);
  const event = { school_id: thing.school_id, page_id: thing.id, person_id: person.id };
  let became = now.version;
  await app.pages.putBack(
    thing.id,
    { id: person.id, owner },
    {
      then,
      passage,
      keepsSince,
      record: async (tx, becomes) => {
        became = becomes;
        await tx
          .insertInto('event')
          .values({ ...event, kind: 'put back', version: becomes, of_version: version })
          .execute();
        if (!owner && thing.kind === 'copy')
          await notifyHolders(tx, grant, { version: becomes, isPassage: passage !== null });
      },
    },
  );
  return { version: became };
}

async function notifyHolders(
  tx: Tx,
  { thing, person }: MayPutBack,
  { version, isPassage }: { version: number; isPassage: boolean },
) {
  const { people } = await tx
    .selectFrom('page')
    .select(HOLDERS.as('people'))
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  await notify(tx, {
    school: thing.school_id,
    people,
    link: `/work/${thing.id}`,
    fact: {
      kind: 'put back',
      title: thing.title,
      by: person.called,
      what: isPassage ? 'passage' : 'page',
    },
    cause: `put back ${thing.id} ${version}`,
  });
}

/** Gives a version a name, by which it is found again. @throws Refusal when there is no such version */
export async function nameVersion(
  app: Using<'db'>,
  { thing, person }: MayPutBack,
  { version, name }: { version: number; name: string },
): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    const page = await tx
      .selectFrom('page')
      .select(['version', 'sealed'])
      .where('id', '=', thing.id)
      .forUpdate()
      .executeTakeFirstOrThrow();
    refuseSealed(page);
    if (version > page.version) throw new Refusal(404, 'This page has no such version yet.');
    await tx
      .insertInto('event')
      .values({
        school_id: thing.school_id,
        page_id: thing.id,
        person_id: person.id,
        kind: 'named',
        version,
        note: name,
      })
      .execute();
  });
}
