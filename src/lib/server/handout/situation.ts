import type { ClassFacts, Situation } from '$core/handout/plan';
import type { HandOutSpec } from '$core/handout/spec';
import { grouped } from '$core/lists/grouped';
import { keysOf } from '../course/answer-keys';
import { readTimetables } from '../calendar/timetables';
import type { Connection } from '../page/page-store';
import { partsOf } from '$core/page/parts';
import type { PageMemory } from '../page/page-memory';

/** What a plan of this spec is made for, as it is now in the database. Classes that are gone are left out. */
export async function readSituation(
  memory: PageMemory,
  db: Connection,
  spec: HandOutSpec,
  at: { now: number; goesOut: number; timeZone: string; school: number; blank: string },
): Promise<Situation> {
  const ids = spec.classes.map((one) => one.class);
  const groupings = spec.classes.flatMap(({ grouping }) => grouping ?? []);
  // One after the other: it may be one transaction's connection.
  const classes = await db
    .selectFrom('class')
    .select(['class.id', 'class.name', 'opened_at'])
    .where('class.id', 'in', ids)
    .where('class.school_id', '=', at.school)
    .execute();
  const students = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['class_id', 'person.id', 'given', 'family'])
    .where('class_id', 'in', ids)
    .where('left_at', 'is', null)
    .orderBy('family')
    .orderBy('given')
    .execute();
  const groups =
    groupings.length === 0
      ? []
      : await db
          .selectFrom('grouping_group')
          .innerJoin('grouping', 'grouping.id', 'grouping_id')
          .leftJoin('group_member', 'group_member.group_id', 'grouping_group.id')
          .select(['grouping_group.id', 'grouping_group.name', 'class_id', 'person_id'])
          .where('grouping.id', 'in', groupings)
          .where('class_id', 'in', ids)
          .orderBy('grouping_group.place')
          .execute();
  const timetables = await readTimetables(db, at.school, ids);
  const studentsOf = grouped(students, (row) => row.class_id);
  const groupsOf = grouped(groups, (row) => row.class_id);
  const facts = ids.flatMap((id): ClassFacts[] => {
    const klass = classes.find((one) => one.id === id);
    const timetable = timetables.get(id);
    if (!klass || !timetable) return [];
    const members = grouped(groupsOf.get(id) ?? [], (row) => row.id);
    return [
      {
        id,
        name: klass.name,
        open: klass.opened_at !== null,
        students: (studentsOf.get(id) ?? []).map((one) => ({
          id: one.id,
          name: `${one.given} ${one.family}`,
        })),
        groups: [...members.values()].map((rows) => ({
          name: rows[0]?.name ?? '',
          members: rows.flatMap(({ person_id }) => person_id ?? []),
        })),
        timetable,
      },
    ];
  });
  const pages = new Map<string, { title: string; parts: number; keys: number }>();
  const wanted = [...spec.originals, ...spec.adapted].map(({ page }) => page);
  for (const id of new Set(wanted)) {
    const row = await db
      .selectFrom('page')
      .select(['title', keysOf('page.id').as('keys')])
      .where('id', '=', id)
      .executeTakeFirst();
    if (!row) continue;
    const parts = partsOf((await memory.open(db, id)).doc).length;
    pages.set(id, { title: row.title, parts, keys: row.keys });
  }
  const { now, goesOut, timeZone, blank } = at;
  return { now, goesOut, timeZone, classes: facts, pages, blank };
}
