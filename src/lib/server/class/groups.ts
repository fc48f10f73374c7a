import { sql } from 'kysely';
import { z } from 'zod';
import { reachedSoFar } from '$core/groups/reached';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { readStudents } from './board';
import { inTransaction } from '../db/transaction';

export const GroupingSpec = z.object({
  /** Null for a new one. */
  id: z.uuid().nullable(),
  name: z
    .string()
    .trim()
    .min(1, 'Give these groups a name, to find them again.')
    .max(100, 'The name has at most 100 characters.'),
  groups: z
    .array(
      z.object({
        name: z.string().trim().min(1, 'Each group needs a name.').max(100),
        members: z.array(z.uuid()).max(500),
      }),
    )
    .max(100, 'A class has at most 100 groups.'),
});
type GroupingSpec = z.infer<typeof GroupingSpec>;

/** The groupings of a class, with who is in each group now. */
export async function readGroupings(db: Database, klass: string) {
  const groupings = await db
    .selectFrom('grouping')
    .select(['id', 'name'])
    .where('class_id', '=', klass)
    .where('away_at', 'is', null)
    .orderBy('name')
    .execute();
  const groups = await db
    .selectFrom('grouping_group')
    .innerJoin('grouping', 'grouping.id', 'grouping_group.grouping_id')
    .select(['grouping_group.id', 'grouping_group.name', 'grouping_id'])
    .where('grouping.class_id', '=', klass)
    .orderBy('place')
    .execute();
  const members = await db
    .selectFrom('group_member')
    .innerJoin('grouping', 'grouping.id', 'group_member.grouping_id')
    .innerJoin('enrolment', (join) =>
      join
        .onRef('enrolment.person_id', '=', 'group_member.person_id')
        .onRef('enrolment.class_id', '=', 'grouping.class_id'),
    )
    .select(['group_id', 'group_member.person_id'])
    .where('grouping.class_id', '=', klass)
    .where('enrolment.left_at', 'is', null)
    .execute();
  return groupings.map((grouping) => ({
    ...grouping,
    groups: groups
      .filter(({ grouping_id }) => grouping_id === grouping.id)
      .map(({ id, name }) => ({
        name,
        members: members.filter(({ group_id }) => group_id === id).map((one) => one.person_id),
      })),
  }));
}

/** The names of the groups of a class's first grouping, by student. */
export async function readFirstGroups(
  db: Connection,
  klass: string,
): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .selectFrom('group_member')
    .innerJoin('grouping_group', 'grouping_group.id', 'group_member.group_id')
    .select(['group_member.person_id', 'grouping_group.name'])
    .where('group_member.grouping_id', '=', (eb) =>
      eb
        .selectFrom('grouping')
        .select('id')
        .where('class_id', '=', klass)
        .where('away_at', 'is', null)
        .orderBy('name')
        .limit(1),
    )
    .execute();
  return new Map(rows.map(({ person_id, name }) => [person_id, name]));
}

/** Keeps groups under their name. @returns the grouping's id @throws Refusal when they cannot be kept */
export async function saveGrouping(
  db: Database,
  { thing: klass }: Grant<'manage the class'>,
  spec: GroupingSpec,
): Promise<string> {
  const students = new Set((await readStudents(db, klass.id)).map(({ id }) => id));
  const members = spec.groups.flatMap((group) => group.members);
  if (new Set(members).size !== members.length)
    throw new Refusal(400, 'Somebody stands in two of the groups.');
  if (members.some((person) => !students.has(person)))
    throw new Refusal(409, 'Somebody in these groups has left the class. Please open them again.');
  const { school_id } = klass;
  return inTransaction(db, async (tx) => {
    const other = await tx
      .selectFrom('grouping')
      .select('id')
      .where('class_id', '=', klass.id)
      .where('name', '=', spec.name)
      .where('away_at', 'is', null)
      .executeTakeFirst();
    if (other && other.id !== spec.id)
      throw new Refusal(409, `There are groups named “${spec.name}” already. Choose another name.`);
    if (spec.id) {
      const known = await tx
        .updateTable('grouping')
        .set({ name: spec.name })
        .where('id', '=', spec.id)
        .where('class_id', '=', klass.id)
        .where('away_at', 'is', null)
        .returning('id')
        .executeTakeFirst();
      if (!known) throw new Refusal(404, 'These groups are not there any more.');
      await tx.deleteFrom('grouping_group').where('grouping_id', '=', spec.id).execute();
    }
    const id =
      spec.id ??
      (
        await tx
          .insertInto('grouping')
          .values({ school_id, class_id: klass.id, name: spec.name })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
    for (const [place, group] of spec.groups.entries()) {
      const { id: group_id } = await tx
        .insertInto('grouping_group')
        .values({ school_id, grouping_id: id, name: group.name, place })
        .returning('id')
        .executeTakeFirstOrThrow();
      if (group.members.length > 0)
        await tx
          .insertInto('group_member')
          .values(
            group.members.map((person_id) => ({ school_id, group_id, grouping_id: id, person_id })),
          )
          .execute();
    }
    return id;
  });
}

/** Deletes groups, or restores them. @throws Refusal when others have their name by now */
export async function setGroupingAway(
  db: Database,
  { thing }: Grant<'manage the class'>,
  id: string,
  away: boolean,
): Promise<void> {
  await inTransaction(db, async (tx) => {
    const rows = await tx
      .selectFrom('grouping')
      .select(['id', 'name', 'away_at'])
      .where('class_id', '=', thing.id)
      .forUpdate()
      .execute();
    const name = rows.find((one) => one.id === id)?.name;
    if (!away && rows.some((one) => one.name === name && one.id !== id && one.away_at === null))
      throw new Refusal(409, `There are groups named “${name}” again. Rename those first.`);
    await tx
      .updateTable('grouping')
      .set({ away_at: away ? new Date() : null })
      .where('id', '=', id)
      .where('class_id', '=', thing.id)
      .execute();
  });
}

export const readDeletedGroupings = (db: Database, klass: string) =>
  db
    .selectFrom('grouping')
    .select(['id', 'name as title'])
    .where('class_id', '=', klass)
    .where('away_at', 'is not', null)
    .orderBy('name')
    .execute();

/** The assignments of a class that go by groups: by which grouping, with their titles. */
export async function readGroupedAssignments(db: Database, klass: string) {
  const { rows } = await sql<{ id: string; title: string; grouping: string }>`
    select assignment.id, assignment.title, part ->> 'grouping' as grouping
    from assignment_class handed join assignment on assignment.id = handed.assignment_id
    cross join lateral jsonb_array_elements(assignment.spec -> 'classes') part
    where handed.class_id = ${klass} and handed.withdrawn_at is null and part ->> 'class' = ${klass}
      and part ->> 'grouping' is not null
      and assignment.spec -> 'originals' @> '[{"delivery": "one per group"}]'
    order by handed.handed_out_at`.execute(db);
  return rows;
}

/** What each student of a class reached so far, from 0 to 1. For balancing groups. */
export async function readReached(
  db: Database,
  klass: string,
  viewer: string,
): Promise<Record<string, number>> {
  const assignments = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.points'])
    .where('class_id', '=', klass)
    .execute();
  const mostOf = new Map(assignments.map(({ id, points }) => [id, points]));
  const copies = await readCopies(db, { class: klass }, viewer);
  return reachedSoFar(
    copies.flatMap(({ assignment, members, points }) => {
      const most = mostOf.get(assignment);
      return points && most ? [{ members, points, most }] : [];
    }),
  );
}
