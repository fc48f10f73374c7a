import { sql } from 'kysely';
import { z } from 'zod';
import { compareRoster, type RosterChange } from '$core/roster/compare-roster';
import { plainWord } from '$core/text/plain-word';
import type { Entry } from '$core/roster/read-roster';
import type { ClassThing } from '../access/relation';
import type { App } from '../app';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { takeAlong } from '../copy/take-along';
import { followMovers, receiveJoiners } from '../handout/joiners';
import { tellClasses } from '../live/listeners';
import { readKnown, rememberOffice } from './known';
import { inTransaction } from '../db/transaction';

/** The lines somebody chose; for a doubtful one, whether it is the same person or another. */
export const Chosen = z.array(
  z.object({ key: z.string().max(400), as: z.enum(['same', 'new']).optional() }),
);

/** What was done to one student, so that it can be undone. */
const Done = z.discriminatedUnion('did', [
  z.object({ did: z.literal('joined'), person: z.string(), name: z.string() }),
  z.object({ did: z.literal('came back'), person: z.string(), name: z.string(), left: z.string() }),
  z.object({ did: z.literal('left'), person: z.string(), name: z.string() }),
  z.object({
    did: z.literal('renamed'),
    person: z.string(),
    name: z.string(),
    was: z.object({ given: z.string(), family: z.string() }),
  }),
]);
type Done = z.infer<typeof Done>;

export interface RosterWish {
  entries: readonly Entry[];
  /** Whether who is not named leaves. */
  whole: boolean;
  chosen: z.infer<typeof Chosen>;
  by: string;
  /** What the entries came from, in words. */
  source: string;
  officeClass: string | null;
}

/**
 * Puts the chosen changes into the roster: all of them, or none.
 * @returns how many there were
 * @throws Refusal when the roster is no longer the one they were chosen on
 */
export async function applyRoster(app: App, klass: ClassThing, wish: RosterWish): Promise<number> {
  const at = new Date();
  const done = await inTransaction(app.db, async (tx) => {
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forUpdate().execute();
    const { changes, matched } = compareRoster(
      wish.entries,
      await readKnown(tx, klass),
      wish.whole,
    );
    const lines: Done[] = [];
    for (const { key, as } of wish.chosen) {
      const change = changes.find((one) => one.key === key);
      if (!change)
        throw new Refusal(
          409,
          'The roster was changed meanwhile, so nothing was done. Please look again.',
        );
      lines.push(...(await applyChange(tx, klass, change, as, at)));
    }
    for (const { person, officeId } of matched)
      await rememberOffice(tx, klass.school_id, { person }, officeId);
    if (wish.officeClass)
      await rememberOffice(tx, klass.school_id, { class: klass.id }, wish.officeClass);
    if (lines.length > 0)
      await tx
        .insertInto('roster_change')
        .values({
          ...{ school_id: klass.school_id, class_id: klass.id, made_by: wish.by, made_at: at },
          ...{ source: wish.source, lines: JSON.stringify(lines) },
        })
        .execute();
    return lines;
  });
  const joined = done.filter(({ did }) => did === 'joined' || did === 'came back');
  await receiveJoiners(
    app,
    klass,
    joined.map(({ person }) => person),
    at,
  );
  const people = done.map(({ person }) => person);
  await followMovers(app, people, at);
  await takeAlong(app, people);
  tellClasses(app, [klass.id], at);
  return done.length;
}

async function applyChange(
  tx: Connection,
  klass: ClassThing,
  change: RosterChange,
  as: 'same' | 'new' | undefined,
  at: Date,
): Promise<Done[]> {
  const { school_id } = klass;
  const { name } = change;
  if (change.kind === 'leaves') {
    await setLeft(tx, klass.id, change.person, at);
    return [{ did: 'left', person: change.person, name }];
  }
  const { entry } = change;
  if (change.kind === 'renamed') return [await rename(tx, change.person, entry)];
  if (change.kind === 'doubtful' && !as)
    throw new Refusal(
      400,
      `Please say of ${name} whether this is ${change.other} or somebody else.`,
    );
  const person = change.kind === 'doubtful' && as === 'new' ? null : change.person;
  if (person) {
    const lines = change.kind === 'doubtful' ? [await rename(tx, person, entry)] : [];
    if (entry.officeId) await rememberOffice(tx, school_id, { person }, entry.officeId);
    const here = change.kind === 'doubtful' && change.otherHere === 'now';
    return here ? lines : [...lines, await enrol(tx, klass, person, name, at)];
  }
  const made = await makeStudent(tx, school_id, entry);
  if (entry.officeId) await rememberOffice(tx, school_id, { person: made }, entry.officeId);
  return [await enrol(tx, klass, made, name, at)];
}

const setLeft = (tx: Connection, klass: string, person: string, left: Date | null) =>
  tx
    .updateTable('enrolment')
    .set({ left_at: left })
    .where('class_id', '=', klass)
    .where('person_id', '=', person)
    .execute();

/** Who comes back finds her work: it never left. */
async function enrol(
  tx: Connection,
  klass: ClassThing,
  person: string,
  name: string,
  at: Date,
): Promise<Done> {
  const before = await tx
    .selectFrom('enrolment')
    .select('left_at')
    .where('class_id', '=', klass.id)
    .where('person_id', '=', person)
    .executeTakeFirst();
  if (before) {
    await setLeft(tx, klass.id, person, null);
    return { did: 'came back', person, name, left: (before.left_at ?? at).toISOString() };
  }
  const row = { class_id: klass.id, school_id: klass.school_id, person_id: person, joined_at: at };
  await tx.insertInto('enrolment').values(row).execute();
  return { did: 'joined', person, name };
}

async function rename(tx: Connection, person: string, entry: Entry): Promise<Done> {
  const was = await tx
    .selectFrom('person')
    .select(['given', 'family'])
    .where('id', '=', person)
    .executeTakeFirstOrThrow();
  const { given, family } = entry;
  await tx.updateTable('person').set({ given, family }).where('id', '=', person).execute();
  return { did: 'renamed', person, name: `${family}, ${given}`, was };
}

/** A student whom nobody knew, with a name to sign in by; she gets her first password from her teacher. */
async function makeStudent(tx: Connection, school_id: number, entry: Entry): Promise<string> {
  const part = (text: string) => plainWord(text).replace(/[^a-z0-9]+/g, '');
  const base = [part(entry.given), part(entry.family)].filter(Boolean).join('.') || 'student';
  // Sign-in names are those of the whole server; one at a time looks for the next that is free.
  await sql`select pg_advisory_xact_lock(hashtext('sign-in names'))`.execute(tx);
  const taken = await tx
    .selectFrom('person')
    .select('sign_in_name')
    .where('sign_in_name', 'like', `${base}%`)
    .execute();
  const names = new Set(taken.map(({ sign_in_name }) => sign_in_name));
  let name = base;
  for (let n = 2; names.has(name); n++) name = `${base}${n}`;
  const { id } = await tx
    .insertInto('person')
    .values({
      ...{ school_id, role: 'student', given: entry.given, family: entry.family, called: '' },
      ...{ sign_in_name: name, password_hash: '', email: entry.email },
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** The changes of a class's roster, newest first. */
export async function readRosterChanges(db: Connection, klass: string) {
  const rows = await db
    .selectFrom('roster_change')
    .innerJoin('person', 'person.id', 'roster_change.made_by')
    .select(['roster_change.id', 'made_at', 'source', 'lines', 'undone_at', 'called', 'given'])
    .where('class_id', '=', klass)
    .orderBy('made_at', 'desc')
    .limit(50)
    .execute();
  return rows.map((row) => ({
    ...{ id: row.id, at: row.made_at.getTime(), source: row.source, by: row.called || row.given },
    lines: z
      .array(Done)
      .parse(row.lines)
      .map(({ did, name }) => ({ did, name })),
    undone: row.undone_at !== null,
  }));
}

/** Undoes the newest change that stands: who joined leaves, who left is back, names are as they were. */
export async function undoRoster(app: App, klass: ClassThing, id: string): Promise<void> {
  const at = new Date();
  const people = await inTransaction(app.db, async (tx) => {
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forUpdate().execute();
    const newest = await tx
      .selectFrom('roster_change')
      .select(['id', 'lines'])
      .where('class_id', '=', klass.id)
      .where('undone_at', 'is', null)
      .orderBy('made_at', 'desc')
      .limit(1)
      .executeTakeFirst();
    if (newest?.id !== id)
      throw new Refusal(409, 'A later change stands on this one. Undo that first.');
    const lines = z.array(Done).parse(newest.lines).reverse();
    for (const line of lines) {
      if (line.did === 'joined') await setLeft(tx, klass.id, line.person, at);
      if (line.did === 'came back') await setLeft(tx, klass.id, line.person, new Date(line.left));
      if (line.did === 'left') await setLeft(tx, klass.id, line.person, null);
      if (line.did === 'renamed')
        await tx.updateTable('person').set(line.was).where('id', '=', line.person).execute();
    }
    await tx.updateTable('roster_change').set({ undone_at: at }).where('id', '=', id).execute();
    return lines.map(({ person }) => person);
  });
  await followMovers(app, people, at);
  tellClasses(app, [klass.id], at);
}
