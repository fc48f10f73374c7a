import { sql } from 'kysely';
import { findCourse } from '../access/relation';
import { may } from '../access/table';
import type { Database } from '../db/connect';
import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';

/** @throws Refusal when one of these rubrics is not a person's to use, or to move */
export async function checkRubrics(
  db: Database,
  person: string,
  rubrics: readonly string[],
  move: boolean,
): Promise<void> {
  const found = await db
    .selectFrom('rubric')
    .select(['id', 'title', 'course_id'])
    .where('id', '=', sql<string>`any(${rubrics}::uuid[])`)
    .execute();
  const known = new Map(found.map((rubric) => [rubric.id, rubric]));
  for (const id of rubrics) {
    const rubric = known.get(id);
    const course = rubric ? await findCourse(db, person, rubric.course_id) : null;
    if (!rubric || !course || !may('see the course', course.relation))
      throw new Refusal(404, 'One of these rubrics is gone, or it is not yours to use.');
    if (move && !may('share the course', course.relation))
      throw new Refusal(403, `“${rubric.title}” is not yours to move. It can be copied.`);
  }
}

/** Brings rubrics into a course: as copies, or the rubrics themselves with all their changes. They are checked before. */
export async function putRubrics(
  tx: Tx,
  rubrics: readonly string[],
  into: { course: string; unit: string | null; person: string },
  move: boolean,
): Promise<void> {
  const { course, unit, person } = into;
  const wanted = sql`unnest(${rubrics}::uuid[]) with ordinality as wanted(id, place)`;
  const last = sql`(select coalesce(max(place), 0) from rubric where course_id = ${course})`;
  if (move)
    await sql`update rubric set course_id = ${course}, unit_id = ${unit}, place = ${last} + wanted.place,
        moved_from = course_id
      from ${wanted} where rubric.id = wanted.id and course_id <> ${course}`.execute(tx);
  else
    await sql`insert into rubric (school_id, course_id, unit_id, title, body, made_by, place)
      select school_id, ${course}, ${unit}::uuid, title, body, ${person}, ${last} + wanted.place
      from ${wanted} join rubric on rubric.id = wanted.id`.execute(tx);
}
