import { sql } from 'kysely';
import { HandOutSpec } from '$core/handout/spec';
import type { BuildPlan } from '$core/course/build-plan';
import { findCourse } from '../access/relation';
import { may } from '../access/table';
import type { Tx } from '../db/transaction';
import type { BuildSource } from './build-source';

/**
 * What drafts in a new class say of a class's assignments: for everybody, in the new class, at the new times. Pages and the
 * unit are named as they are where they come from; `bringDrafts` puts what came in their place.
 */
export function specsOf(
  { specs, assignments }: BuildSource,
  plan: BuildPlan,
  klass: string,
): HandOutSpec[] {
  const loses = new Set(assignments.flatMap(({ id, losesRubric }) => (losesRubric ? id : [])));
  return plan.assignments.flatMap(({ id, unit, due }) => {
    const spec = specs.get(id);
    if (!spec) return [];
    return HandOutSpec.parse({
      ...spec,
      only: null,
      without: [],
      adapted: [],
      rubric: loses.has(id) ? null : spec.rubric,
      classes: [{ class: klass, unit }],
      due,
    });
  });
}

interface Build {
  class_id: string;
  school_id: number;
  made_by: string;
}

/** Makes the drafts, once all pages and units are there. `units`: the class's unit for each unit that came. */
export async function bringDrafts(
  tx: Tx,
  build: Build,
  { drafts, copies }: { drafts: readonly HandOutSpec[]; copies: readonly string[] },
  units: ReadonlyMap<string, string>,
  at: Date,
): Promise<void> {
  if (drafts.length === 0) return;
  const came = await tx
    .selectFrom('page')
    .select(['id', 'from_id'])
    .where('class_id', '=', build.class_id)
    .where('kind', '=', 'class page')
    .where('from_id', '=', sql<string>`any(${copies}::uuid[])`)
    .where('away_at', 'is', null)
    .orderBy('made_at')
    .execute();
  const pages = new Map(came.map(({ id, from_id }) => [from_id, id]));
  const rubrics = await bringRubrics(tx, build, drafts);
  await tx
    .insertInto('hand_out')
    .values(
      drafts.map((spec) => ({
        school_id: build.school_id,
        class_id: build.class_id,
        made_by: build.made_by,
        changed_by: build.made_by,
        changed_at: at,
        version: 1,
        spec: JSON.stringify({
          ...spec,
          originals: spec.originals.map((one) => ({
            ...one,
            page: pages.get(one.page) ?? one.page,
          })),
          classes: spec.classes.map((one) => ({ ...one, unit: units.get(one.unit ?? '') ?? null })),
          rubric: spec.rubric === null ? null : (rubrics.get(spec.rubric) ?? null),
        } satisfies HandOutSpec),
      })),
    )
    .execute();
}

/**
 * Rubrics of other courses come into the class's own, once, for whoever writes it; those that lie in it are used as they are.
 * @returns the rubric to use for each
 */
async function bringRubrics(
  tx: Tx,
  build: Build,
  drafts: readonly HandOutSpec[],
): Promise<Map<string, string>> {
  const wanted = [...new Set(drafts.flatMap(({ rubric }) => rubric ?? []))];
  if (wanted.length === 0) return new Map();
  const { course_id: course } = await tx
    .selectFrom('class')
    .select('course_id')
    .where('id', '=', build.class_id)
    .executeTakeFirstOrThrow();
  const relation = (await findCourse(tx, build.made_by, course))?.relation ?? 'nobody';
  // Two classes that are built at once bring a rubric once.
  await tx.selectFrom('course').select('id').where('id', '=', course).forNoKeyUpdate().execute();
  if (may('write the course', relation))
    await sql`insert into rubric (school_id, course_id, title, body, made_by, place, from_id)
      select school_id, ${course}, title, body, ${build.made_by}, place, id from rubric source
      where id = any(${wanted}::uuid[]) and course_id <> ${course} and not exists (
        select from rubric here
        where here.course_id = ${course} and here.from_id = source.id and here.away_at is null)`.execute(
      tx,
    );
  const rows = await tx
    .selectFrom('rubric')
    .select((eb) => [
      'id',
      eb
        .case()
        .when('id', '=', sql<string>`any(${wanted}::uuid[])`)
        .then(eb.ref('id'))
        .else(eb.ref('from_id'))
        .end()
        .as('for'),
    ])
    .where('course_id', '=', course)
    .where((eb) =>
      eb.or([
        eb('id', '=', sql<string>`any(${wanted}::uuid[])`),
        eb.and([
          eb('from_id', '=', sql<string>`any(${wanted}::uuid[])`),
          eb('away_at', 'is', null),
        ]),
      ]),
    )
    .execute();
  return new Map(rows.map((row) => [row.for ?? '', row.id]));
}
