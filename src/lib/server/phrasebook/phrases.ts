import { sql } from 'kysely';
import { readCsv } from '$core/formats/csv';
import { LONGEST, phrasesIn, type Phrase } from '$core/phrasebook/phrase';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

type Keeps = Grant<'keep a phrasebook'>;

/** A phrase as whoever may use it sees it. */
export interface KeptPhrase extends Phrase {
  /** Whether it is the reader's own, to be changed. */
  own: boolean;
  /** Who wrote it. */
  by: string;
  /** The course whose colleagues share it; null for none. */
  course: { id: string; title: string } | null;
  version: number;
  away: boolean;
}

/** So many phrases one person keeps. */
const MOST = 2000;

/** The courses of somebody, with whose colleagues they may share. */
export const readOwnCourses = (db: Connection, { person }: Keeps) =>
  db
    .selectFrom('course_staff')
    .innerJoin('course', 'course.id', 'course_staff.course_id')
    .select(['course.id', 'course.title'])
    .where('course_staff.person_id', '=', person.id)
    .where('course.away_at', 'is', null)
    .orderBy('course.title')
    .execute();

/** One's own phrases, those that are removed, too, and what colleagues share: the most used first. */
export async function readPhrases(db: Connection, { person }: Keeps): Promise<KeptPhrase[]> {
  const { rows } = await sql<{
    id: string;
    text: string;
    used: number;
    own: boolean;
    by: string;
    course: { id: string; title: string } | null;
    version: number;
    away: boolean;
  }>`
    select phrase.id, phrase.text, phrase.owner_id = ${person.id} as own, phrase.version,
      coalesce(nullif(owner.called, ''), owner.given) as by, phrase.away_at is not null as away,
      (select count(*)::int from phrase_use
        where phrase_use.phrase_id = phrase.id and phrase_use.person_id = ${person.id}) as used,
      case when course.id is not null then json_build_object('id', course.id, 'title', course.title) end as course
    from phrase join person owner on owner.id = phrase.owner_id
    left join course on course.id = phrase.course_id
    where phrase.owner_id = ${person.id} or (phrase.away_at is null and phrase.course_id in (
      select course_id from course_staff where course_staff.person_id = ${person.id}))
    order by used desc, phrase.text`.execute(db);
  return rows;
}

interface Written {
  text: string;
  course: string | null;
}

/** @throws Refusal when it is none of that person's courses */
async function refuseOthersCourse(db: Connection, { person }: Keeps, course: string | null) {
  if (course === null) return;
  const row = await db
    .selectFrom('course_staff')
    .select('course_id')
    .where('course_id', '=', course)
    .where('person_id', '=', person.id)
    .executeTakeFirst();
  if (!row) throw new Refusal(403, 'You don’t have access to this course.');
}

/** Adds phrases to somebody's phrasebook; what is there already stays once. @returns how many are new */
export async function addPhrases(
  app: Using<'db'>,
  grant: Keeps,
  texts: readonly string[],
  course: string | null = null,
): Promise<number> {
  const { person } = grant;
  return inTransaction(app.db, async (tx) => {
    await refuseOthersCourse(tx, grant, course);
    // Two who add at once know of each other.
    await sql`select from person where id = ${person.id} for no key update`.execute(tx);
    const there = await tx
      .selectFrom('phrase')
      .select('text')
      .where('owner_id', '=', person.id)
      .where('away_at', 'is', null)
      .execute();
    const known = new Set(there.map(({ text }) => text));
    const fresh = texts.filter((text) => !known.has(text));
    if (known.size + fresh.length > MOST)
      throw new Refusal(413, `A phrasebook holds ${MOST} phrases. Nothing was added.`);
    if (fresh.length > 0)
      await tx
        .insertInto('phrase')
        .values(
          fresh.map((text) => ({
            school_id: person.school_id,
            owner_id: person.id,
            course_id: course,
            text,
          })),
        )
        .execute();
    return fresh.length;
  });
}

/** Changes one of one's own, as it was seen. @throws Refusal when it was changed meanwhile */
export async function changePhrase(
  app: Using<'db'>,
  grant: Keeps,
  { id, version, text, course }: Written & { id: string; version: number },
): Promise<void> {
  await refuseOthersCourse(app.db, grant, course);
  const changed = await app.db
    .updateTable('phrase')
    .set((eb) => ({ text, course_id: course, version: eb('version', '+', 1) }))
    .where('id', '=', id)
    .where('owner_id', '=', grant.person.id)
    .where('version', '=', version)
    .executeTakeFirst();
  if (changed.numUpdatedRows === 0n)
    throw new Refusal(409, 'This phrase was changed elsewhere just now. Please look again.');
}

/** Removes one of one's own, or brings it back. */
export async function putPhraseAway(
  app: Using<'db'>,
  { person }: Keeps,
  id: string,
  away: boolean,
): Promise<void> {
  await app.db
    .updateTable('phrase')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', id)
    .where('owner_id', '=', person.id)
    .execute();
}

/** Counts that somebody used a phrase that they may use. */
export async function countUse(app: Using<'db'>, { person }: Keeps, id: string): Promise<void> {
  await sql`insert into phrase_use (phrase_id, person_id)
    select phrase.id, ${person.id} from phrase where phrase.id = ${id} and phrase.away_at is null
      and (phrase.owner_id = ${person.id} or phrase.course_id in (
        select course_id from course_staff where course_staff.person_id = ${person.id}))`.execute(
    app.db,
  );
}

/** Adds the phrases of a table. @returns how many are new, and what was passed over @throws Refusal when it is none */
export async function importPhrases(
  app: Using<'db'>,
  grant: Keeps,
  table: string,
): Promise<{ added: number; there: number; passed: string[] }> {
  const read = readCsv(table);
  if ('fault' in read) throw new Refusal(422, read.fault);
  const { texts, passed } = phrasesIn(read.rows);
  if (texts.length === 0)
    throw new Refusal(
      422,
      `There are no phrases in this file, of at most ${LONGEST} characters each.`,
    );
  const added = await addPhrases(app, grant, texts);
  return { added, there: texts.length - added, passed };
}
