import { emptyRubric, type RubricTable } from '$core/marking/rubric';
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

export const findRubric = (db: Connection, course: string, id: string) =>
  db
    .selectFrom('rubric')
    .leftJoin('person', 'person.id', 'rubric.saved_by')
    .select(['rubric.id', 'title', 'unit_id', 'body', 'version', 'called', 'given'])
    .where('course_id', '=', course)
    .where('rubric.id', '=', id)
    .executeTakeFirst();

/** A new rubric of a course, with one criterion or as given. @returns its id */
export async function beginRubric(
  db: Connection,
  wish: { course: string; school: number; unit: string | null; title: string; by: string },
  table: RubricTable = emptyRubric(crypto.randomUUID().slice(0, 8)),
): Promise<string> {
  await checkUnit(db, { course: wish.course }, wish.unit);
  const { id } = await db
    .insertInto('rubric')
    .values({
      ...{ school_id: wish.school, course_id: wish.course, unit_id: wish.unit, title: wish.title },
      ...{ body: JSON.stringify(table), made_by: wish.by, place: 1_000 },
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
  course: string,
  id: string,
  change: { title: string; table: RubricTable; version: number; by: string },
): Promise<{ version: number } | { theirs: Awaited<ReturnType<typeof findRubric>> }> {
  const saved = await db
    .updateTable('rubric')
    .set((eb) => ({
      ...{ title: change.title, body: JSON.stringify(change.table), saved_by: change.by },
      version: eb('version', '+', 1),
    }))
    .where('course_id', '=', course)
    .where('id', '=', id)
    .where('version', '=', change.version)
    .returning('version')
    .executeTakeFirst();
  if (saved) return saved;
  const theirs = await findRubric(db, course, id);
  if (!theirs) throw new Refusal(404, 'This rubric is not in the course any more.');
  return { theirs };
}

/** Takes a rubric away from its course, or brings it back. */
export const putRubricAway = (db: Connection, course: string, id: string, away: boolean) =>
  db
    .updateTable('rubric')
    .set({ away_at: away ? new Date() : null })
    .where('course_id', '=', course)
    .where('id', '=', id)
    .execute();
