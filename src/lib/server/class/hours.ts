import { sql } from 'kysely';
import { hoursOf, type Hours } from '$core/board/hours';
import { lessonsAfter } from '$core/calendar/lessons';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { readTimetables } from '../calendar/timetables';
import { hasCome, isPageThere, type Moment } from '../db/as-of';
import type { Database } from '../db/connect';

export interface WorkedRow extends Hours {
  copy: string;
  student: string;
}

/** When a sitting ended; or, of one that went on after a moment, what was its last change until then. */
const endedBy = (at: Moment) =>
  at
    ? sql<Date>`case when ended_at <= ${at} then ended_at else (
        select max(step.at) from logged_steps(sitting.page_id, sitting.first - 1, sitting.last) as step
        where step.author_id = sitting.person_id and step.at <= ${at}) end`
    : sql<Date>`ended_at`;

/** When the students of a class worked on their copies: a row for each copy and each who wrote on it. */
export async function viewHours(
  db: Database,
  { thing: klass }: Grant<'see the class'>,
  at: Moment = null,
): Promise<WorkedRow[]> {
  const timetable = (await readTimetables(db, klass.school_id, [klass.id])).get(klass.id);
  const lessons = timetable ? lessonsAfter(timetable, 0) : [];
  const rows = await db
    .selectFrom('sitting')
    .innerJoin('page', 'page.id', 'sitting.page_id')
    .innerJoin('person', 'person.id', 'sitting.person_id')
    .select(['page_id as copy', 'person_id as student', 'begun_at', endedBy(at).as('ended_at')])
    .where('page.class_id', '=', klass.id)
    .where('page.kind', '=', 'copy')
    .where(isPageThere(at))
    .where(hasCome('sitting.begun_at', at))
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
