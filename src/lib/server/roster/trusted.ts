import type { Connection } from '../page/page-store';

/**
 * The students whom a teacher may put into a class of theirs and whose names they may correct: those they teach now, and
 * those who are or were in this class. Anybody else is asked, or comes from the office.
 */
export async function readTrusted(
  db: Connection,
  teacher: string,
  klass: string,
): Promise<ReadonlySet<string>> {
  const rows = await db
    .selectFrom('enrolment')
    .innerJoin('class_staff', 'class_staff.class_id', 'enrolment.class_id')
    .select('enrolment.person_id')
    .where('class_staff.person_id', '=', teacher)
    .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
    .where('left_at', 'is', null)
    .union(db.selectFrom('enrolment').select('person_id').where('class_id', '=', klass))
    .execute();
  return new Set(rows.map(({ person_id }) => person_id));
}
