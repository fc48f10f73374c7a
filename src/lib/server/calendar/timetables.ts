import { Brought } from '$core/archive/record';
import type { Timetable } from '$core/calendar/lessons';
import { grouped } from '$core/lists/grouped';
import type { Connection } from '../page/page-store';

/**
 * When classes of a school have lessons, by class; one that was opened from an archive by the calendar that it comes with.
 * Four statements, however many classes.
 */
export async function readTimetables(
  db: Connection,
  school: number,
  classes: readonly string[],
): Promise<Map<string, Timetable>> {
  if (classes.length === 0) return new Map();
  // One after the other: it may be one transaction's connection.
  const { time_zone: timeZone } = await db
    .selectFrom('school')
    .select('time_zone')
    .where('id', '=', school)
    .executeTakeFirstOrThrow();
  const terms = await db
    .selectFrom('class')
    .innerJoin('term', 'term.id', 'class.term_id')
    .select(['class.id', 'term.starts', 'term.ends', 'class.brought'])
    .where('class.id', 'in', classes)
    .where('class.school_id', '=', school)
    .execute();
  const slots = await db
    .selectFrom('lesson_slot')
    .select(['class_id', 'weekday', 'starts', 'ends'])
    .where('class_id', 'in', classes)
    .execute();
  const holidays = await db
    .selectFrom('holiday')
    .select(['starts', 'ends'])
    .where('school_id', '=', school)
    .execute();
  const slotsOf = grouped(slots, (row) => row.class_id);
  return new Map(
    terms.map(({ id, starts, ends, brought }) => {
      const own = { timeZone, slots: slotsOf.get(id) ?? [], holidays, term: { starts, ends } };
      return [id, brought ? { ...own, ...calendarOf(brought) } : own];
    }),
  );
}

function calendarOf(brought: object) {
  const { time_zone: timeZone, holidays, term } = Brought.parse(brought).calendar;
  return { timeZone, holidays, term };
}
