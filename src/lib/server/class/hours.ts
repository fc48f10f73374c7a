import { hoursOf, type Hours } from '$core/board/hours';
import { lessonsAfter } from '$core/calendar/lessons';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { readTimetables } from '../calendar/timetables';
import type { Database } from '../db/connect';

export interface WorkedRow extends Hours {
  copy: string;
  student: string;
}

/** When the students of a class worked on their copies: a row for each copy and each who wrote on it. */
export async function viewHours(
  db: Database,
  { thing: klass }: Grant<'see the class'>,
): Promise<WorkedRow[]> {
  const timetable = (await readTimetables(db, klass.school_id, [klass.id])).get(klass.id);
  const lessons = timetable ? lessonsAfter(timetable, 0) : [];
  const rows = await db
    .selectFrom('sitting')
    .innerJoin('page', 'page.id', 'sitting.page_id')
    .innerJoin('person', 'person.id', 'sitting.person_id')
    .select(['page_id as copy', 'person_id as student', 'begun_at', 'ended_at'])
    .where('page.class_id', '=', klass.id)
    .where('page.kind', '=', 'copy')
    .where('page.away_at', 'is', null)
    .where('person.role', '=', 'student')
    .execute();
  return [...grouped(rows, ({ copy, student }) => `${copy} ${student}`).values()].flatMap((own) => {
    const sittings = own.map((one) => ({
      from: one.begun_at.getTime(),
      to: one.ended_at.getTime(),
    }));
    const hours = hoursOf(sittings, lessons, klass.time_zone);
    const [one] = own;
    return one && hours ? [{ copy: one.copy, student: one.student, ...hours }] : [];
  });
}
