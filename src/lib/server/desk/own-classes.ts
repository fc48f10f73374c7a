import { may } from '../access/table';
import type { Database } from '../db/connect';

/** The classes a teacher has a part in and that are not archived, by name. `leads`: what is not marking alone is theirs, too. */
export async function readOwnClasses(db: Database, teacher: string) {
  const rows = await db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.id', 'class.name', 'course.title', 'class_staff.kind'])
    .select(['class.opened_at', 'class.opens_at'])
    .where('class_staff.person_id', '=', teacher)
    .where('class.archived_at', 'is', null)
    .orderBy('class.name')
    .execute();
  return rows.map(({ kind, ...row }) => ({ ...row, leads: may('manage the class', kind) }));
}
