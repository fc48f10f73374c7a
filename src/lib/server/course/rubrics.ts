import { emptyRubric, readRubric, type RubricTable } from '$core/marking/rubric';
import type { Grant } from '../access/grant';
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
 * Saves a rubric over the version that it was made on.
 * @returns its version now; or, when somebody saved it meanwhile, what they saved
 * @throws Refusal when it is gone
 */
export async function writeRubric(
  db: Connection,
  grant: Grant<'write the course'>,
  id: string,
  change: { title: string; table: RubricTable; version: number },
): Promise<{ version: number } | { theirs: Awaited<ReturnType<typeof openRubric>> }> {
  const saved = await db
    .updateTable('rubric')
    .set((eb) => ({
      title: change.title,
      body: JSON.stringify(change.table),
      saved_by: grant.person.id,
      version: eb('version', '+', 1),
    }))
    .where('course_id', '=', grant.thing.id)
    .where('id', '=', id)
    .where('version', '=', change.version)
    .returning('version')
    .executeTakeFirst();
  if (saved) return saved;
  return { theirs: await openRubric(db, grant, id) };
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
