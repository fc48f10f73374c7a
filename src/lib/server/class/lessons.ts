import { lessonsAfter, type Lesson } from '$core/calendar/lessons';
import type { ClassThing } from '../access/relation';
import type { Database } from '../db/connect';

/** The class's next lessons, by its slots and the school's holidays. */
export async function readLessons(
  db: Database,
  klass: ClassThing,
  from: number,
  count: number,
): Promise<Lesson[]> {
  const slots = await db
    .selectFrom('lesson_slot')
    .select(['weekday', 'starts', 'ends'])
    .where('class_id', '=', klass.id)
    .execute();
  const holidays = await db
    .selectFrom('holiday')
    .select(['starts', 'ends'])
    .where('school_id', '=', klass.school_id)
    .execute();
  return lessonsAfter(slots, holidays, klass.time_zone, from, count);
}
