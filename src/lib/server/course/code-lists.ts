import { sql } from 'kysely';
import { codeChanges, type CodeChanges, type KeptCode } from '$core/course/code-changes';
import type { CodeList } from '$core/formats/code-list';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';

/** What a list would do to the one of its title that the school has already. */
export interface SameList {
  title: string;
  by: string;
  added: number;
  changed: number;
  gone: number;
}

/**
 * Keeps a list of codes for the whole school. One whose title is known is kept once somebody said what to do with it:
 * bring that list up to date, or be another of its own.
 * @returns what the list would do, when nobody said so yet; null once it is kept
 */
export async function saveCodes(
  db: Database,
  { thing: { school_id }, person }: Grant<'write the course'>,
  list: CodeList,
  how: 'ask' | 'update' | 'another' = 'ask',
): Promise<SameList | null> {
  return inTransaction(db, async (tx) => {
    // Two who read the same list at once do not both find that it is new.
    await tx
      .selectFrom('school')
      .select('id')
      .where('id', '=', school_id)
      .forNoKeyUpdate()
      .execute();
    const same = await tx
      .selectFrom('code_set')
      .innerJoin('person', 'person.id', 'code_set.made_by')
      .select(['code_set.id', 'called', 'given'])
      .where('code_set.school_id', '=', school_id)
      .where('title', '=', list.title)
      .where('code_set.away_at', 'is', null)
      .orderBy('code_set.made_at')
      .executeTakeFirst();
    const kept = same ? await readKeptCodes(tx, same.id) : [];
    const changes = codeChanges(kept, list);
    if (same && how === 'ask') {
      const { added, changed, gone } = changes;
      const by = same.called || same.given;
      return { title: list.title, by, added, changed, gone: gone.length };
    }
    if (same && how === 'update') await bringUpToDate(tx, same.id, school_id, list, changes);
    else {
      const { id } = await tx
        .insertInto('code_set')
        .values({ school_id, title: list.title, made_by: person.id })
        .returning('id')
        .executeTakeFirstOrThrow();
      await bringUpToDate(tx, id, school_id, list, codeChanges([], list));
    }
    return null;
  });
}

async function readKeptCodes(tx: Tx, set: string): Promise<KeptCode[]> {
  const rows = await tx
    .selectFrom('code')
    .select(['id', 'code', 'statement', 'away_at'])
    .where('set_id', '=', set)
    .orderBy('place')
    .execute();
  return rows.map(({ away_at, ...code }) => ({ ...code, away: away_at !== null }));
}

/** What a list names stands in its set as the list has it; what it names no more is away, with what carries it. */
async function bringUpToDate(
  tx: Tx,
  set: string,
  school: number,
  list: CodeList,
  { ids: known, gone }: CodeChanges,
): Promise<void> {
  const ids = known.map((id) => id ?? crypto.randomUUID());
  const rows = list.codes.map(({ code, statement, parent }, place) => ({
    id: ids[place],
    school_id: school,
    set_id: set,
    code,
    statement,
    place,
    parent_id: parent === null ? null : ids[parent],
  }));
  await sql`insert into code (id, school_id, set_id, code, statement, parent_id, place)
    select * from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(id uuid, school_id int, set_id uuid,
      code text, statement text, parent_id uuid, place int)
    on conflict (id) do update set code = excluded.code, statement = excluded.statement,
      parent_id = excluded.parent_id, place = excluded.place, away_at = null`.execute(tx);
  await tx
    .updateTable('code')
    .set({ away_at: new Date() })
    .where('id', '=', sql<string>`any(${gone}::uuid[])`)
    .execute();
}

/** Removes a list of codes from its school, or brings it back with what carries its codes. @throws Refusal when it is somebody else's */
export async function putListAway(
  db: Database,
  { thing, person }: Grant<'write the course'>,
  list: string,
  away: boolean,
): Promise<void> {
  const set = await db
    .selectFrom('code_set')
    .innerJoin('person', 'person.id', 'code_set.made_by')
    .select(['code_set.made_by', 'called', 'given'])
    .where('code_set.id', '=', list)
    .where('code_set.school_id', '=', thing.school_id)
    .executeTakeFirst();
  if (!set) throw new Refusal(404, 'There is no such list of codes.');
  if (set.made_by !== person.id)
    throw new Refusal(403, `${set.called || set.given} brought this list in, and can remove it.`);
  await db
    .updateTable('code_set')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', list)
    .execute();
}

/** The lists that a person removed. */
export const readRemovedLists = (db: Connection, school: number, person: string) =>
  db
    .selectFrom('code_set')
    .select(['id', 'title'])
    .where('school_id', '=', school)
    .where('made_by', '=', person)
    .where('away_at', 'is not', null)
    .orderBy('title')
    .execute();

export interface ListedCode {
  id: string;
  code: string;
  statement: string;
  /** How many codes stand over it. */
  depth: number;
  /** The list it is of. */
  set: string;
  list: string;
  /** Whose list it is. */
  by: string;
}

/** The codes of a school, list by list, parents before their children. */
export async function readCodes(db: Connection, school: number): Promise<ListedCode[]> {
  const rows = await db
    .selectFrom('code')
    .innerJoin('code_set', 'code_set.id', 'code.set_id')
    .select(['code.id', 'code', 'statement', 'parent_id', 'set_id as set'])
    .select(['code_set.title as list', 'made_by as by'])
    .where('code.school_id', '=', school)
    .where('code.away_at', 'is', null)
    .where('code_set.away_at', 'is', null)
    .orderBy('code_set.made_at')
    .orderBy('set_id')
    .orderBy('place')
    .execute();
  const depths = new Map<string, number>();
  return rows.map(({ parent_id, ...row }) => {
    const depth = parent_id === null ? 0 : (depths.get(parent_id) ?? 0) + 1;
    depths.set(row.id, depth);
    return { ...row, depth };
  });
}
