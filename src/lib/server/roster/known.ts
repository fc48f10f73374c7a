import type { Known } from '$core/roster/compare-roster';
import type { ClassThing } from '../access/relation';
import type { Connection } from '../page/page-store';

/** The students of the school, as a class's roster is compared with them: those of the class first. */
export async function readKnown(
  db: Connection,
  klass: Pick<ClassThing, 'id' | 'school_id'>,
): Promise<Known[]> {
  const rows = await db
    .selectFrom('person')
    .leftJoin('enrolment', (join) =>
      join.onRef('enrolment.person_id', '=', 'person.id').on('class_id', '=', klass.id),
    )
    .leftJoin('office_map', (join) =>
      join.onRef('office_map.person_id', '=', 'person.id').on('office_map.kind', '=', 'person'),
    )
    .select([
      'person.id as person',
      'person.given',
      'person.family',
      'person.email',
      'person.sign_in_name as signIn',
      'person.disabled_at',
      'office_map.sourced_id as officeId',
      'enrolment.joined_at',
      'enrolment.left_at',
    ])
    .where('person.school_id', '=', klass.school_id)
    .where('person.role', '=', 'student')
    .where('person.name_only', '=', false)
    .orderBy('enrolment.joined_at')
    .orderBy('person.family')
    .orderBy('person.given')
    .execute();
  return rows.map(({ joined_at, left_at, disabled_at, ...known }) => ({
    ...known,
    enabled: disabled_at === null,
    here: joined_at === null ? 'never' : left_at === null ? 'now' : 'once',
  }));
}

/** The office's class that a class was mapped to. */
export async function readOfficeClass(db: Connection, klass: string): Promise<string | null> {
  const row = await db
    .selectFrom('office_map')
    .select('sourced_id')
    .where('kind', '=', 'class')
    .where('class_id', '=', klass)
    .executeTakeFirst();
  return row?.sourced_id ?? null;
}

/**
 * Remembers which of the office's classes or people is which here.
 * @param certain whether the office itself says so: then what it named before is forgotten. A file changes no pair.
 */
export async function rememberOffice(
  db: Connection,
  school: number,
  ours: { class: string } | { person: string },
  sourcedId: string,
  certain: boolean,
): Promise<void> {
  const isClass = 'class' in ours;
  const kind = isClass ? 'class' : 'person';
  const column = isClass ? 'class_id' : 'person_id';
  const id = isClass ? ours.class : ours.person;
  if (!certain) {
    const known = await db
      .selectFrom('office_map')
      .select('sourced_id')
      .where('school_id', '=', school)
      .where('kind', '=', kind)
      .where((eb) => eb.or([eb(column, '=', id), eb('sourced_id', '=', sourcedId)]))
      .executeTakeFirst();
    if (known) return;
  }
  await db
    .deleteFrom('office_map')
    .where('school_id', '=', school)
    .where('kind', '=', kind)
    .where((eb) => eb.or([eb(column, '=', id), eb('sourced_id', '=', sourcedId)]))
    .execute();
  await db
    .insertInto('office_map')
    .values({ school_id: school, kind, sourced_id: sourcedId, [column]: id })
    .execute();
}
