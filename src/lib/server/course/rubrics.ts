import { differences } from '$core/lists/differences';
import { describeRubric } from '$core/marking/describe-rubric';
import { emptyRubric, readRubric, type RubricTable } from '$core/marking/rubric';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { checkUnit } from './units';
import type { Connection } from '../page/page-store';

/** The rubrics of a course, in order. `away`: those that were taken away. */
export const readRubrics = (db: Connection, course: string, away = false) =>
  db
    .selectFrom('rubric')
    .select(['id', 'title', 'unit_id as unit', 'place', 'body'])
    .where('course_id', '=', course)
    .where('away_at', away ? 'is not' : 'is', null)
    .orderBy('place')
    .execute();

const findRubric = (db: Connection, course: string, id: string) =>
  db
    .selectFrom('rubric')
    .leftJoin('person', 'person.id', 'rubric.saved_by')
    .select(['rubric.id', 'title', 'unit_id', 'body', 'version', 'called', 'given'])
    .where('course_id', '=', course)
    .where('rubric.id', '=', id)
    .executeTakeFirst();

/** A rubric as it stands. @throws Refusal when it is not in the course any more */
export async function openRubric(
  db: Connection,
  { thing }: Grant<'see the course'> | Grant<'write the course'>,
  id: string | undefined,
) {
  const rubric = await findRubric(db, thing.id, id ?? '');
  if (!rubric) throw new Refusal(404, 'This rubric is not in the course any more.');
  const { body, ...row } = rubric;
  return { ...row, table: readRubric(body) };
}

/** A new rubric of a course, with one criterion or as given. @returns its id */
export async function beginRubric(
  db: Connection,
  { thing: course, person }: Grant<'write the course'>,
  { unit, title }: { unit: string | null; title: string },
  table: RubricTable = emptyRubric(crypto.randomUUID().slice(0, 8)),
): Promise<string> {
  await checkUnit(db, { course: course.id }, unit);
  const { id } = await db
    .insertInto('rubric')
    .values({
      school_id: course.school_id,
      course_id: course.id,
      unit_id: unit,
      title,
      body: JSON.stringify(table),
      made_by: person.id,
      place: 1_000,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/**
 * Saves a rubric over the version that it was made on; as it stood before is kept.
 * @returns its version now; or, when somebody saved it meanwhile, what they saved
 * @throws Refusal when it is gone
 */
export async function writeRubric(
  db: Database,
  grant: Grant<'write the course'>,
  id: string,
  change: { title: string; table: RubricTable; version: number },
): Promise<{ version: number } | { theirs: Awaited<ReturnType<typeof openRubric>> }> {
  const { thing: course, person } = grant;
  const version = await inTransaction(db, async (tx) => {
    const before = await tx
      .selectFrom('rubric')
      .select(['version', 'title', 'body'])
      .where('course_id', '=', course.id)
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst();
    if (before?.version !== change.version) return null;
    const body = JSON.stringify(change.table);
    await tx
      .insertInto('rubric_change')
      .values({
        ...before,
        body: JSON.stringify(before.body),
        rubric_id: id,
        school_id: course.school_id,
        changed_by: person.id,
      })
      .execute();
    await tx
      .updateTable('rubric')
      .set({ title: change.title, body, saved_by: person.id, version: before.version + 1 })
      .where('id', '=', id)
      .execute();
    return before.version + 1;
  });
  return version === null ? { theirs: await openRubric(db, grant, id) } : { version };
}

const MOST_CHANGES = 50;

/** The last changes of a rubric, the newest first: who made them, when, and what they changed, in words. */
export async function readRubricChanges(
  db: Connection,
  rubric: Awaited<ReturnType<typeof openRubric>>,
) {
  const rows = await db
    .selectFrom('rubric_change')
    .innerJoin('person', 'person.id', 'changed_by')
    .select(['rubric_change.version', 'title', 'body', 'at', 'called', 'given'])
    .where('rubric_id', '=', rubric.id)
    .orderBy('rubric_change.version', 'desc')
    .limit(MOST_CHANGES)
    .execute();
  let after = describeRubric(rubric.title, rubric.table);
  return rows.map(({ version, title, body, at, called, given }) => {
    const before = describeRubric(title, readRubric(body));
    const changed = differences(before, after);
    after = before;
    return { version, at: at.getTime(), by: called || given, changed };
  });
}

/**
 * Makes a rubric again as it stood before one of its changes, which is a change like any other.
 * @throws Refusal when there is no such change, or the rubric was saved meanwhile
 */
export async function takeRubricBack(
  db: Database,
  grant: Grant<'write the course'>,
  id: string,
  { before, version }: { before: number; version: number },
): Promise<void> {
  await openRubric(db, grant, id);
  const stood = await db
    .selectFrom('rubric_change')
    .select(['title', 'body'])
    .where('rubric_id', '=', id)
    .where('version', '=', before)
    .executeTakeFirst();
  if (!stood) throw new Refusal(404, 'This rubric has no such change.');
  const { title, body } = stood;
  const saved = await writeRubric(db, grant, id, { title, table: readRubric(body), version });
  if ('theirs' in saved)
    throw new Refusal(409, 'Somebody saved this rubric meanwhile. Please look again.');
}

/** Takes a rubric away from its course, or brings it back. */
export const putRubricAway = (
  db: Connection,
  { thing: course }: Grant<'write the course'>,
  id: string,
  away: boolean,
) =>
  db
    .updateTable('rubric')
    .set({ away_at: away ? new Date() : null })
    .where('course_id', '=', course.id)
    .where('id', '=', id)
    .execute();
