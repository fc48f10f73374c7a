import { z } from 'zod';
import { compareRoster, type RosterChange } from '$core/roster/compare-roster';
import { setShutOut } from '../school/people';
import { freeSignInName } from '../school/sign-in-name';
import type { Entry } from '$core/roster/read-roster';
import type { Grant } from '../access/grant';
import type { ClassThing } from '../access/relation';
import type { Using } from '../services';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { publishToClasses } from '../live/listeners';
import { enrol, setLeft } from './enrol';
import { askToJoin, stopAsking } from './join-requests';
import { readKnown, rememberOffice } from './known';
import { readTrusted } from './trusted';
import { inTransaction, type Tx } from '../db/transaction';

/** The lines somebody chose; for a doubtful one, whether it is the same person or another. */
export const Chosen = z.array(
  z.object({ key: z.string().max(400), as: z.enum(['same', 'new']).optional() }),
);

/** What was done to one student, so that it can be undone. */
const Done = z.discriminatedUnion('did', [
  z.object({ did: z.literal('joined'), person: z.string(), name: z.string() }),
  z.object({ did: z.literal('asked'), person: z.string(), name: z.string() }),
  z.object({ did: z.literal('came back'), person: z.string(), name: z.string(), left: z.string() }),
  z.object({ did: z.literal('left'), person: z.string(), name: z.string() }),
  z.object({ did: z.enum(['shut out', 'let in']), person: z.string(), name: z.string() }),
  z.object({
    did: z.literal('renamed'),
    person: z.string(),
    name: z.string(),
    /** The address, where that was corrected, too. */
    was: z.object({ given: z.string(), family: z.string(), email: z.string().optional() }),
  }),
]);
export type Done = z.infer<typeof Done>;

export interface RosterSpec {
  entries: readonly Entry[];
  /** Whether who is not named leaves. */
  whole: boolean;
  chosen: z.infer<typeof Chosen>;
  /** What the entries came from, in words. */
  source: string;
  /** Whether they came from the office's own system, rather than from a file that a teacher has. */
  fromOffice: boolean;
  officeClass: string | null;
}

/** Changes of a person, not of who is in the class. */
const ABOUT_PERSON: ReadonlySet<string> = new Set<RosterChange['kind']>([
  'renamed',
  'shut out',
  'let in',
]);

/** What a roster would change in a class, as far as this teacher may change it. */
export async function planRosterChanges(
  db: Connection,
  { thing, person }: Grant<'manage the class'>,
  spec: Pick<RosterSpec, 'entries' | 'whole' | 'fromOffice'>,
) {
  const read = compareRoster(spec.entries, await readKnown(db, thing), spec.whole);
  const trusted = await readTrusted(db, person.id, thing.id);
  const isTrusted = (one: string | null) => spec.fromOffice || one === null || trusted.has(one);
  const changes = read.changes
    .filter(({ kind, person: of }) => !ABOUT_PERSON.has(kind) || isTrusted(of))
    .map((change) => ({ ...change, asks: !isTrusted(change.person) }));
  return { ...read, changes };
}
type Change = Awaited<ReturnType<typeof planRosterChanges>>['changes'][number];

/**
 * Puts the chosen changes into the roster: all of them, or none.
 * @returns how many there were
 * @throws Refusal when the roster is no longer the one they were chosen on
 */
export const applyRoster = (
  app: Using<'db' | 'jobs' | 'news'>,
  grant: Grant<'manage the class'>,
  spec: RosterSpec,
): Promise<number> =>
  changeRoster(app, grant, spec.source, async (tx, at) => {
    const klass = grant.thing;
    const { changes, matched } = await planRosterChanges(tx, grant, spec);
    const lines: Done[] = [];
    const remember = (ours: { class: string } | { person: string }, sourcedId: string) =>
      rememberOffice(tx, klass.school_id, ours, sourcedId, spec.fromOffice);
    for (const { key, as } of spec.chosen) {
      const change = changes.find((one) => one.key === key);
      if (!change)
        throw new Refusal(
          409,
          'The roster was changed meanwhile, so nothing was done. Please look again.',
        );
      lines.push(...(await applyChange(tx, grant, change, as, at)));
    }
    for (const { person, officeId } of matched) await remember({ person }, officeId);
    if (spec.officeClass) await remember({ class: klass.id }, spec.officeClass);
    return lines;
  });

/**
 * Changes a class's roster, with the class locked, and keeps what was done, so that it can be undone.
 * @param source what it came from, in words
 * @returns how many changes there were
 */
export async function changeRoster(
  app: Using<'db' | 'jobs' | 'news'>,
  grant: Grant<'manage the class'>,
  source: string,
  change: (tx: Tx, at: Date) => Promise<Done[]>,
): Promise<number> {
  const klass = grant.thing;
  const at = new Date();
  const done = await inTransaction(app.db, async (tx) => {
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forUpdate().execute();
    const lines = await change(tx, at);
    if (lines.length > 0)
      await tx
        .insertInto('roster_change')
        .values({
          school_id: klass.school_id,
          class_id: klass.id,
          made_by: grant.person.id,
          made_at: at,
          source,
          lines: JSON.stringify(lines),
        })
        .execute();
    const of = (...deeds: Done['did'][]) =>
      lines.filter(({ did }) => deeds.includes(did)).map(({ person }) => person);
    if (lines.length > 0)
      await app.jobs.put(tx, klass.school_id, 'receive', {
        class: klass.id,
        joined: of('joined', 'came back'),
        moved: of('joined', 'came back', 'left'),
      });
    return lines;
  });
  app.news.endStreams({
    people: done.filter(({ did }) => did === 'shut out').map(({ person }) => person),
  });
  publishToClasses(app, [klass.id]);
  return done.length;
}

async function applyChange(
  tx: Tx,
  grant: Grant<'manage the class'>,
  change: Change,
  as: 'same' | 'new' | undefined,
  at: Date,
): Promise<Done[]> {
  const { thing: klass, person: by } = grant;
  const { school_id } = klass;
  const { name } = change;
  if (change.kind === 'leaves') {
    await setLeft(tx, klass.id, change.person, at);
    return [{ did: 'left', person: change.person, name }];
  }
  if (change.kind === 'shut out' || change.kind === 'let in') {
    await setShutOut(tx, school_id, change.person, change.kind === 'shut out');
    return [{ did: change.kind, person: change.person, name }];
  }
  const { entry } = change;
  if (change.kind === 'renamed') return [await rename(tx, change.person, nameOf(entry))];
  if (change.kind === 'doubtful' && !as)
    throw new Refusal(
      400,
      `Please say of ${name} whether this is ${change.other} or somebody else.`,
    );
  const person = change.kind === 'doubtful' && as === 'new' ? null : change.person;
  if (person && change.asks) {
    await askToJoin(tx, klass, person, by, at);
    return [{ did: 'asked', person, name }];
  }
  if (person) {
    const lines = change.kind === 'doubtful' ? [await rename(tx, person, nameOf(entry))] : [];
    if (entry.officeId) await rememberOffice(tx, school_id, { person }, entry.officeId, false);
    const here = change.kind === 'doubtful' && change.otherHere === 'now';
    return here ? lines : [...lines, await join(tx, klass, person, name, at)];
  }
  const made = await makeStudent(tx, school_id, entry, by.id);
  if (entry.officeId) await rememberOffice(tx, school_id, { person: made }, entry.officeId, false);
  return [await join(tx, klass, made, name, at)];
}

/** A file's address says who is meant, and is not taken over. */
const nameOf = ({ given, family }: Entry) => ({ given, family });

async function join(
  tx: Tx,
  klass: ClassThing,
  person: string,
  name: string,
  at: Date,
): Promise<Done> {
  const left = await enrol(tx, klass, person, at);
  return left
    ? { did: 'came back', person, name, left: left.toISOString() }
    : { did: 'joined', person, name };
}

/** @param to what they are called; with an address, that is theirs from now on, too */
export async function rename(
  tx: Tx,
  person: string,
  to: { given: string; family: string; email?: string },
): Promise<Done> {
  const was = await tx
    .selectFrom('person')
    .select(['given', 'family', ...(to.email === undefined ? [] : (['email'] as const))])
    .where('id', '=', person)
    .executeTakeFirstOrThrow();
  const { given, family } = to;
  const email = to.email === undefined ? {} : { email: to.email };
  await tx
    .updateTable('person')
    .set({ given, family, ...email })
    .where('id', '=', person)
    .execute();
  return { did: 'renamed', person, name: `${family}, ${given}`, was };
}

/** A student whom nobody knew, with a name to sign in by; they get their first password from their teacher. */
async function makeStudent(
  tx: Tx,
  school_id: number,
  entry: Entry,
  made_by: string,
): Promise<string> {
  const sign_in_name = await freeSignInName(tx, entry);
  const { id } = await tx
    .insertInto('person')
    .values({
      school_id,
      role: 'student',
      given: entry.given,
      family: entry.family,
      called: '',
      sign_in_name,
      password_hash: '',
      email: entry.email,
      disabled_at: entry.enabled === false ? new Date() : null,
      made_by,
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
    id: row.id,
    at: row.made_at.getTime(),
    source: row.source,
    by: row.called || row.given,
    lines: z
      .array(Done)
      .parse(row.lines)
      .map(({ did, name }) => ({ did, name })),
    undone: row.undone_at !== null,
  }));
}

/** Undoes the newest change that stands: who joined leaves, who left is back, names are as they were. */
export async function undoRoster(
  app: Using<'db' | 'jobs' | 'news'>,
  { thing: klass }: Grant<'manage the class'>,
  id: string,
): Promise<void> {
  const at = new Date();
  await inTransaction(app.db, async (tx) => {
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
      if (line.did === 'asked') await stopAsking(tx, klass.id, line.person);
      if (line.did === 'joined') await setLeft(tx, klass.id, line.person, at);
      if (line.did === 'came back') await setLeft(tx, klass.id, line.person, new Date(line.left));
      if (line.did === 'left') await setLeft(tx, klass.id, line.person, null);
      if (line.did === 'shut out' || line.did === 'let in')
        await setShutOut(tx, klass.school_id, line.person, line.did === 'let in');
      if (line.did === 'renamed')
        await tx.updateTable('person').set(line.was).where('id', '=', line.person).execute();
    }
    await tx.updateTable('roster_change').set({ undone_at: at }).where('id', '=', id).execute();
    const moved = lines.map(({ person }) => person);
    await app.jobs.put(tx, klass.school_id, 'receive', { class: klass.id, joined: [], moved });
  });
  publishToClasses(app, [klass.id]);
}
