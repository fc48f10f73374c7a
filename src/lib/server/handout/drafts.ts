import { sql } from 'kysely';
import { HandOutSpec, isMeant } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import type { SignedIn } from '../access/session';
import type { Using } from '../services';
import { notify } from '../message/messages';
import { HOLDERS } from '../copy/holders';
import { log } from '../log';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { handOut } from './hand-out';
import { CheckedSpec } from './rights';
import { inTransaction } from '../db/transaction';

interface Draft {
  /** The mark of the hand-out: the assignment will have it. */
  id: string;
  spec: HandOutSpec;
  /** When it goes out by itself; null for a draft that somebody finishes. */
  goesOut: Date | null;
  /** The version that it was made on; 0 for a new one. */
  version: number;
  /** Whether to ask first where it is planned and the same people have the same pages already, or will. */
  asks?: boolean;
}

/**
 * Keeps a draft, or plans it for a time. Any of the class's staff may finish what another began.
 * @returns its version now; or, when somebody saved it meanwhile, what they saved; or what the same people have already
 */
export async function saveDraft(
  app: Using<'db' | 'findPage' | 'jobs'>,
  { thing: klass, person }: Grant<'hand out'>,
  draft: Draft,
  now: Date,
): Promise<{ version: number } | { theirs: SavedDraft } | { known: KnownHandOut }> {
  const { id, goesOut, version, asks = false } = draft;
  const { spec } = await CheckedSpec.check(app, person.id, draft.spec);
  const by = person.id;
  if (goesOut && goesOut <= now)
    throw new Refusal(400, 'This time has passed. Choose a later one, or hand it out now.');
  const known = goesOut && asks ? await findKnown(app.db, id, spec) : null;
  if (known) return { known };
  return inTransaction(app.db, async (tx) => {
    await refuseWhenOut(tx, id);
    const kept = await tx
      .insertInto('hand_out')
      .values({
        id,
        school_id: klass.school_id,
        class_id: klass.id,
        made_by: by,
        changed_by: by,
        spec: JSON.stringify(spec),
        goes_out_at: goesOut,
        changed_at: now,
        version: 1,
      })
      .onConflict((conflict) =>
        conflict
          .column('id')
          .doUpdateSet({
            spec: JSON.stringify(spec),
            goes_out_at: goesOut,
            changed_at: now,
            changed_by: by,
            fault: null,
            away_at: null,
            version: version + 1,
          })
          .where('hand_out.version', '=', version)
          .where('hand_out.class_id', '=', klass.id)
          .where('hand_out.handed_out_at', 'is', null),
      )
      .returning('version')
      .executeTakeFirst();
    if (!kept) return { theirs: await readSaved(tx, klass.id, id) };
    if (goesOut) await app.jobs.put(tx, klass.school_id, 'hand out', { hand: id }, goesOut);
    return kept;
  });
}

/** A draft as somebody else saved it meanwhile. */
type SavedDraft = Awaited<ReturnType<typeof readSaved>>;

async function readSaved(db: Connection, klass: string, id: string) {
  const row = await db
    .selectFrom('hand_out')
    .innerJoin('person', 'person.id', 'hand_out.changed_by')
    .select(['spec', 'version', 'goes_out_at', 'given', 'called'])
    .where('hand_out.id', '=', id)
    .where('class_id', '=', klass)
    .where('handed_out_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(409, 'This was handed out already.');
  const { spec, version, goes_out_at, given, called } = row;
  return {
    spec: HandOutSpec.parse(spec),
    version,
    by: called || given,
    goesOut: goes_out_at?.getTime() ?? null,
  };
}

async function refuseWhenOut(db: Connection, id: string) {
  const out = await db
    .selectFrom('assignment')
    .select('id')
    .where('id', '=', id)
    .executeTakeFirst();
  if (out) throw new Refusal(409, 'This was handed out already.');
}

/** Puts a draft away; it can be brought back by keeping it again. */
export const dropDraft = (db: Connection, { thing }: Grant<'hand out'>, id: string) =>
  db
    .updateTable('hand_out')
    .set({ away_at: new Date(), goes_out_at: null })
    .where('id', '=', id)
    .where('class_id', '=', thing.id)
    .execute();

/** What is not handed out yet in a class: drafts, and what goes out by itself. */
export async function readDrafts(db: Connection, classes: readonly string[]) {
  if (classes.length === 0) return [];
  const rows = await db
    .selectFrom('hand_out')
    .innerJoin('person', 'person.id', 'hand_out.changed_by')
    .select(['hand_out.id', 'spec', 'version', 'goes_out_at', 'changed_at', 'fault'])
    .select(['given', 'called', 'class_id'])
    .where('class_id', 'in', classes)
    .where('handed_out_at', 'is', null)
    .where('away_at', 'is', null)
    .orderBy('changed_at', 'desc')
    // Those of one moment, in the order in which they are due.
    .orderBy(sql`spec -> 'due' ->> 'local'`)
    .orderBy('hand_out.id')
    .execute();
  return rows.map(({ goes_out_at, changed_at, spec, given, called, class_id, ...row }) => ({
    ...row,
    class_id: class_id ?? '',
    spec: HandOutSpec.parse(spec),
    by: called || given,
    goesOut: goes_out_at?.getTime() ?? null,
    changed: changed_at.getTime(),
  }));
}

/**
 * Hands out, from a class, what somebody asks for; a draft of that mark is a draft no more.
 * @param again whether what the same people have already is to be handed out once more
 * @returns how many copies were made; or what they have already, and nothing was done
 */
export async function handOutFrom(
  app: Using<'db' | 'findPage' | 'jobs' | 'memory' | 'news'>,
  { thing, person }: Grant<'hand out'>,
  { id, spec, at, again }: { id: string; spec: HandOutSpec; at: Date; again: boolean },
): Promise<{ copies: number } | { known: KnownHandOut }> {
  if (!spec.classes.some((one) => one.class === thing.id))
    throw new Refusal(400, `${thing.name} is not among the classes.`);
  const checked = await CheckedSpec.check(app, person.id, spec);
  const known = again ? null : await findKnown(app.db, id, spec);
  if (known) return { known };
  const { copies } = await handOut(app, checked, { id, at });
  await recordHandedOut(app.db, { id, class: thing.id }, at);
  return { copies: copies.length };
}

/** What was handed out before, or goes out by itself: its title, the class and when, in epoch milliseconds. */
export interface KnownHandOut {
  title: string;
  class: string;
  at: number;
  planned: boolean;
}

/**
 * Another hand-out of some of a spec's pages to some of the people whom it means: the newest that was handed out, or one
 * that goes out by itself; null for none. Of a spec that was checked: it tells of the classes that it names.
 */
const findKnown = async (db: Connection, id: string, spec: HandOutSpec) =>
  (await findHandedOut(db, id, spec)) ?? (await findPlanned(db, id, spec));

async function findPlanned(
  db: Connection,
  id: string,
  spec: HandOutSpec,
): Promise<KnownHandOut | null> {
  const rows = await db
    .selectFrom('hand_out')
    .innerJoin('class', 'class.id', 'class_id')
    .select(['spec', 'class.name', 'goes_out_at'])
    .where('class_id', '=', sql<string>`any(${spec.classes.map((one) => one.class)}::uuid[])`)
    .where('hand_out.id', '<>', id)
    .where('goes_out_at', 'is not', null)
    .where('handed_out_at', 'is', null)
    .where('away_at', 'is', null)
    .orderBy('goes_out_at')
    .execute();
  const pages = new Set(spec.originals.map(({ page }) => page));
  for (const row of rows) {
    const other = HandOutSpec.parse(row.spec);
    // Where neither names students, both mean all of the class.
    const chosen = spec.only ?? other.only;
    const meantByBoth = !chosen || chosen.some((one) => isMeant(spec)(one) && isMeant(other)(one));
    if (meantByBoth && other.originals.some(({ page }) => pages.has(page)))
      return {
        title: other.title,
        class: row.name,
        at: row.goes_out_at?.getTime() ?? 0,
        planned: true,
      };
  }
  return null;
}

async function findHandedOut(
  db: Connection,
  id: string,
  spec: HandOutSpec,
): Promise<KnownHandOut | null> {
  const rows = await db
    .selectFrom('page')
    .innerJoin('assignment_class as handed', (join) =>
      join
        .onRef('handed.assignment_id', '=', 'page.assignment_id')
        .onRef('handed.class_id', '=', 'page.class_id'),
    )
    .innerJoin('assignment', 'assignment.id', 'page.assignment_id')
    .innerJoin('class', 'class.id', 'page.class_id')
    .select(['assignment.title', 'class.name', 'handed.handed_out_at as at'])
    .select(HOLDERS.as('holders'))
    .where('page.for_id', '=', sql<string>`any(${spec.originals.map(({ page }) => page)}::uuid[])`)
    .where('page.class_id', '=', sql<string>`any(${spec.classes.map((one) => one.class)}::uuid[])`)
    .where('page.kind', '=', 'copy')
    .where('page.assignment_id', '<>', id)
    .where('page.away_at', 'is', null)
    .where('page.replaced_at', 'is', null)
    .where('handed.withdrawn_at', 'is', null)
    .orderBy('handed.handed_out_at', 'desc')
    .execute();
  const same = rows.find(({ holders }) => holders.some(isMeant(spec)));
  if (!same) return null;
  return { title: same.title, class: same.name, at: same.at.getTime(), planned: false };
}

/** Notes that what a draft said is handed out. */
const recordHandedOut = (db: Connection, draft: { id: string; class: string | null }, at: Date) =>
  db
    .updateTable('hand_out')
    .set({ handed_out_at: at, fault: null })
    .where('id', '=', draft.id)
    .where('class_id', '=', draft.class)
    .execute();

/** The job: hands out what is planned if its time has come. A time that was changed or taken back meanwhile counts. */
export async function handOutWhenDue(
  app: Using<'db' | 'findPage' | 'jobs' | 'memory' | 'news'>,
  hand: string,
  now: Date,
): Promise<void> {
  const row = await app.db
    .selectFrom('hand_out')
    .selectAll()
    .where('id', '=', hand)
    .where('handed_out_at', 'is', null)
    .where('away_at', 'is', null)
    .where('goes_out_at', '<=', now)
    .executeTakeFirst();
  if (!row) return;
  const spec = HandOutSpec.parse(row.spec);
  try {
    // Who planned it may have lost a class or a course since.
    await handOut(app, await CheckedSpec.check(app, row.changed_by, spec), { id: hand, at: now });
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const out = await app.db
      .selectFrom('assignment')
      .select('id')
      .where('id', '=', hand)
      .executeTakeFirst();
    if (!out) return sayFault(app, row, spec, error.message);
  }
  await recordHandedOut(app.db, { id: hand, class: row.class_id }, now);
}

async function sayFault(
  app: Using<'db'>,
  row: { id: string; school_id: number; class_id: string | null; changed_by: string },
  spec: HandOutSpec,
  sentence: string,
) {
  log.warn({ hand: row.id }, sentence);
  await app.db
    .updateTable('hand_out')
    .set({ fault: sentence, goes_out_at: null })
    .where('id', '=', row.id)
    .execute();
  await notify(app.db, {
    school: row.school_id,
    people: [row.changed_by],
    cause: `not handed out ${row.id}`,
    fact: { kind: 'not handed out', title: spec.title, fault: sentence },
    link: `/classes/${row.class_id}/hand-out?draft=${row.id}`,
  });
}

/** A person's own templates: how they handed out before, under a name. */
export async function readTemplates(db: Connection, person: string) {
  const rows = await db
    .selectFrom('hand_out')
    .select(['id', 'name', 'spec'])
    .where('made_by', '=', person)
    .where('name', 'is not', null)
    .where('away_at', 'is', null)
    .orderBy('name')
    .execute();
  return rows.map(({ id, name, spec }) => ({
    id,
    name: name ?? '',
    spec: HandOutSpec.parse(spec),
  }));
}

/** Keeps a template under its name; one of that name before is replaced. */
export async function saveTemplate(
  app: Using<'db'>,
  { id: by, school_id: school }: SignedIn,
  { name, spec }: { name: string; spec: HandOutSpec },
): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    await tx
      .updateTable('hand_out')
      .set({ away_at: new Date() })
      .where('made_by', '=', by)
      .where('name', '=', name)
      .execute();
    await tx
      .insertInto('hand_out')
      .values({
        school_id: school,
        made_by: by,
        changed_by: by,
        name,
        spec: JSON.stringify(spec),
      })
      .execute();
  });
}

/** What somebody asked for when they handed out last. */
export async function readLastSpec(db: Connection, person: string): Promise<HandOutSpec | null> {
  const row = await db
    .selectFrom('assignment')
    .select('spec')
    .where('made_by', '=', person)
    .where('spec', 'is not', null)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? HandOutSpec.parse(row.spec) : null;
}
