import { sql } from 'kysely';
import type { z } from 'zod';
import { Scoring } from '$core/marking/scoring';
import type {
  ClassmatesFeedback,
  ClassmatesScoring,
  StudentScoringAsked,
} from '$core/marking/student-scoring';
import { OPEN_CLASS, inCupboard } from '../access/class-state';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { publishToStaff } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { isHeld } from './holders';
import { lockPage } from './lock-page';
import { readNameless } from './nameless-page';
import { readRubricOf } from './scorings';
import { addStudentScoring, readStudentScoring, type NewStudentScoring } from './student-scoring';

type Score = Grant<'score a classmate'>;

/** A copy of a classmate’s that somebody is to score. */
export interface ToScore {
  page: string;
  title: string;
  class: string;
  course: string;
  given: boolean;
  /** Whether it went back to its students: what is given now goes nowhere any more, unless it comes again. */
  back: boolean;
}

/** What a student is to score for classmates, in the classes that are open to them. */
export const readToScore = (
  db: Connection,
  { person: { id: person } }: Grant<'see own work'> | Score,
): Promise<ToScore[]> =>
  db
    .selectFrom('reading')
    .innerJoin('page as by_page', 'by_page.id', 'reading.by_page_id')
    .innerJoin('page', 'page.id', 'reading.page_id')
    .innerJoin('class', 'class.id', 'page.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('enrolment', (join) =>
      join
        .onRef('enrolment.class_id', '=', 'page.class_id')
        .on('enrolment.person_id', '=', person)
        .on('left_at', 'is', null),
    )
    .innerJoin('assignment_class as handed', (join) =>
      join
        .onRef('handed.assignment_id', '=', 'page.assignment_id')
        .onRef('handed.class_id', '=', 'page.class_id'),
    )
    .select(['page.id as page', 'page.title', 'class.name as class', 'course.title as course'])
    .select(
      sql<boolean>`exists (select from student_scoring where student_scoring.page_id = page.id
        and student_scoring.by_page_id = by_page.id)`.as('given'),
    )
    .select(
      sql<boolean>`exists (select from event where event.page_id = page.id
        and event.kind = 'handed back')`.as('back'),
    )
    .where(isHeld('by_page', sql.val(person)))
    .where('page.away_at', 'is', null)
    .where('handed.withdrawn_at', 'is', null)
    .where(sql<boolean>`not coalesce(${inCupboard('handed.unit_id')}, false)`)
    .where(OPEN_CLASS)
    .orderBy('class.name')
    .orderBy('page.title')
    .orderBy('page.id')
    .execute();

/** Which copy of somebody’s a copy was dealt to. @throws Refusal when it is none of theirs any more */
async function readReading(db: Connection, { thing, person }: Score) {
  const row = await db
    .selectFrom('reading')
    .innerJoin('page as by_page', 'by_page.id', 'reading.by_page_id')
    .innerJoin('page', 'page.id', 'reading.page_id')
    .innerJoin('assignment_class', (join) =>
      join
        .onRef('assignment_class.assignment_id', '=', 'page.assignment_id')
        .onRef('assignment_class.class_id', '=', 'page.class_id'),
    )
    .select(['by_page.id as by', 'reading.version', 'classmates_named as named'])
    .select(['page.assignment_id as assignment'])
    .where('reading.page_id', '=', thing.id)
    .where(isHeld('by_page', sql.val(person.id)))
    .executeTakeFirst();
  if (!row?.assignment) throw new Refusal(404, 'You are not asked to score this any more.');
  return { ...row, assignment: row.assignment };
}

/** A classmate’s copy as whoever scores it has it before them. */
export interface ClassmatesCopy {
  title: string;
  /** Whose it is; null where names are hidden. */
  who: string | null;
  doc: object;
  scoring: StudentScoringAsked;
}

export async function viewClassmatesCopy(
  db: Connection,
  grant: Score,
): Promise<ClassmatesCopy | null> {
  const { thing } = grant;
  const { by, version, named, assignment } = await readReading(db, grant);
  const [rubric, last, doc, holders] = await Promise.all([
    readRubricOf(db, assignment),
    readStudentScoring(db, { page: thing.id, by }),
    readNameless(db, thing, version),
    named ? readNamesOf(db, [thing.id]) : null,
  ]);
  const who = holders?.get(thing.id) ?? null;
  const title = thing.title;
  return rubric && { title, who, doc: doc.toJSON() as object, scoring: { rubric, last } };
}

/** What a student scores a classmate’s copy by, and gave it last; null without a rubric. */
export async function viewClassmatesScoring(
  db: Connection,
  grant: Score,
): Promise<StudentScoringAsked | null> {
  const { by, assignment } = await readReading(db, grant);
  const rubric = await readRubricOf(db, assignment);
  return rubric && { rubric, last: await readStudentScoring(db, { page: grant.thing.id, by }) };
}

/** Scores a classmate’s copy, as it was dealt. @throws Refusal */
export async function scoreClassmates(
  app: Using<'db' | 'news'>,
  grant: Score,
  given: z.infer<typeof NewStudentScoring>,
): Promise<{ score: string }> {
  const { thing, person } = grant;
  const score = await inTransaction(app.db, async (tx) => {
    const { school_id } = await lockPage(tx, thing.id);
    const { by, version, assignment } = await readReading(tx, grant);
    const whose = { page: thing.id, by, person: person.id, assignment };
    return addStudentScoring(tx, whose, { version, school_id }, given);
  });
  if (thing.class_id) publishToStaff(app, thing.class_id);
  return score;
}

/** The names of those whose these pages are: "Ada Fennick", "Ada Fennick and Jan Pellworm". */
export async function readNamesOf(
  db: Connection,
  pages: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  if (pages.length === 0) return new Map();
  const { rows } = await sql<{ id: string; names: string }>`
    select page.id, string_agg(concat(person.given, ' ', person.family), ' and ' order by person.family, person.given) as names
    from page left join page_member on page_member.page_id = page.id
    join person on person.id = coalesce(page_member.person_id, page.student_id)
    where page.id = any(${[...pages]}::uuid[]) group by page.id`.execute(db);
  return new Map(rows.map(({ id, names }) => [id, names]));
}

const WITHHELD = sql<boolean>`exists (select from withheld_scoring where withheld_scoring.page_id = student_scoring.page_id
  and withheld_scoring.by_page_id = student_scoring.by_page_id)`;

/**
 * What students gave copies last, their own scoring first (`by` null): all of it, or what came back with the copy of what
 * classmates gave.
 */
export async function readGiven(db: Connection, pages: readonly string[], which: 'all' | 'back') {
  const rows = await db
    .selectFrom('student_scoring')
    .distinctOn(['page_id', 'by_page_id'])
    .select(['page_id as page', 'by_page_id as by', 'at', 'scoring'])
    .select(WITHHELD.as('withheld'))
    .where('page_id', '=', sql<string>`any(${pages}::uuid[])`)
    .$if(which === 'back', (query) =>
      query
        .where('by_page_id', 'is not', null)
        .where(sql<boolean>`not ${WITHHELD}`)
        .where(
          sql<boolean>`at <= (select max(event.at) from event
            where event.page_id = student_scoring.page_id and event.kind = 'handed back')`,
        ),
    )
    .orderBy('page_id')
    .orderBy(sql`by_page_id nulls first`)
    .orderBy('id', 'desc')
    .execute();
  return rows.map((row) => ({ ...row, scoring: Scoring.parse(row.scoring) }));
}
type Given = Awaited<ReturnType<typeof readGiven>>[number];
const isClassmates = (one: Given): one is Given & { by: string } => one.by !== null;

/** What students gave a copy, for the staff: those whose it is, and classmates. */
export async function readFromStudents(
  db: Connection,
  page: string,
): Promise<{ own: Scoring | null; classmates: ClassmatesScoring[] }> {
  const given = await readGiven(db, [page], 'all');
  const classmates = given.filter(isClassmates);
  const names = await readNamesOf(
    db,
    classmates.map(({ by }) => by),
  );
  return {
    own: given.find(({ by }) => by === null)?.scoring ?? null,
    classmates: classmates.map(({ by, scoring, withheld }) => ({
      by,
      who: names.get(by) ?? null,
      scoring,
      withheld,
    })),
  };
}

/** What came back with a copy last of what classmates gave it, for its students. */
export async function readBackFromClassmates(
  db: Connection,
  page: string,
): Promise<ClassmatesFeedback[]> {
  const given = (await readGiven(db, [page], 'back')).filter(isClassmates);
  if (given.length === 0) return [];
  const { named } = await db
    .selectFrom('page')
    .innerJoin('assignment_class', (join) =>
      join
        .onRef('assignment_class.assignment_id', '=', 'page.assignment_id')
        .onRef('assignment_class.class_id', '=', 'page.class_id'),
    )
    .select('classmates_named as named')
    .where('page.id', '=', page)
    .executeTakeFirstOrThrow();
  const by = given.map((one) => one.by);
  const names = named ? await readNamesOf(db, by) : null;
  return given.map(({ by, scoring }) => ({ who: names?.get(by) ?? null, scoring }));
}

/** Withholds what classmates gave a copy from its students, or lets it go back after all. @throws Refusal for nothing given */
export async function withholdScoring(
  app: Using<'db' | 'news'>,
  { thing }: Grant<'mark'>,
  { by, withheld }: { by: string; withheld: boolean },
): Promise<void> {
  const given = await readGiven(app.db, [thing.id], 'all');
  if (!given.some((one) => one.by === by))
    throw new Refusal(404, 'There is no such scoring of a classmate’s.');
  if (withheld)
    await app.db
      .insertInto('withheld_scoring')
      .values({ page_id: thing.id, by_page_id: by, school_id: thing.school_id })
      .onConflict((there) => there.doNothing())
      .execute();
  else
    await app.db
      .deleteFrom('withheld_scoring')
      .where('page_id', '=', thing.id)
      .where('by_page_id', '=', by)
      .execute();
  if (thing.class_id) publishToStaff(app, thing.class_id);
}
