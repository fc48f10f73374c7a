import type { Database } from '../db/connect';

/** How far a teacher has come from an empty school to the first page in students' hands. */
export async function readFirstSteps(db: Database, teacher: string) {
  const course = await db
    .selectFrom('course_staff')
    .select('course_id as id')
    .where('person_id', '=', teacher)
    .limit(1)
    .executeTakeFirst();
  const klass = await db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .select((eb) => [
      'class.id',
      'class.name',
      'class.opened_at',
      eb
        .exists(
          eb
            .selectFrom('enrolment')
            .select('person_id')
            .whereRef('enrolment.class_id', '=', 'class.id')
            .where('left_at', 'is', null),
        )
        .as('students'),
      eb
        .exists(
          eb
            .selectFrom('assignment_class')
            .select('assignment_id')
            .whereRef('assignment_class.class_id', '=', 'class.id'),
        )
        .as('handedOut'),
    ])
    .where('class_staff.person_id', '=', teacher)
    .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
    .orderBy('handedOut', 'desc')
    .orderBy('students', 'desc')
    .limit(1)
    .executeTakeFirst();
  return {
    course: course?.id ?? null,
    class: klass ? { id: klass.id, name: klass.name } : null,
    students: Boolean(klass?.students),
    opened: klass?.opened_at != null,
    handedOut: Boolean(klass?.handedOut),
  };
}
