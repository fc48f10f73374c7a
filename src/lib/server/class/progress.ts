import { weekOfWork, type WorkOfDay } from '$core/board/hours';
import {
  momentsBetween,
  statesOverTime,
  type Charted,
  type CopyHistory,
} from '$core/board/states-over-time';
import { lessonsAfter } from '$core/calendar/lessons';
import { asksForWork } from '$core/copy/state';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { readTimetables } from '../calendar/timetables';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';

/** How an assignment went in a class. Instants in epoch milliseconds. */
export interface Progress {
  states: { at: number; counts: Record<Charted, number> }[];
  /** Monday to Sunday. */
  week: WorkOfDay[];
  due: number | null;
}

/** So many moments a chart has at most. */
const MOST_MOMENTS = 60;
/** So long after it was due nothing much is expected any more, in milliseconds. */
const AFTERWARDS = 28 * 86_400_000;

/** How the copies of an assignment stood over time in a class, and when in the week they were worked on; null without copies. */
export async function viewProgress(
  db: Database,
  { thing, person }: Grant<'see the assignment'>,
  now: number,
): Promise<Progress | null> {
  const { class: klass, id } = thing;
  const copies = (await readCopies(db, { class: klass.id, assignment: id }, person.id)).filter(
    asksForWork,
  );
  const pages = copies.map((copy) => copy.id);
  if (pages.length === 0) return null;
  const made = await db
    .selectFrom('page')
    .select(['id', 'made_at'])
    .where('id', 'in', pages)
    .execute();
  const events = await db
    .selectFrom('event')
    .select(['page_id', 'kind', 'at', 'person_id as person'])
    .where('page_id', 'in', pages)
    .orderBy('id')
    .execute();
  const scores = await db
    .selectFrom('score')
    .select(['page_id', 'at'])
    .where('page_id', 'in', pages)
    .orderBy('id')
    .execute();
  const sittings = await db
    .selectFrom('sitting')
    .innerJoin('person', 'person.id', 'person_id')
    .select(['page_id', 'begun_at', 'ended_at'])
    .where('page_id', 'in', pages)
    .where('person.role', '=', 'student')
    .orderBy('begun_at')
    .execute();
  const byPage = <Row extends { page_id: string }>(rows: readonly Row[]) =>
    grouped(rows, (row) => row.page_id);
  const [eventsOf, scoresOf, sittingsOf] = [byPage(events), byPage(scores), byPage(sittings)];
  const histories = made.map((page): CopyHistory => ({
    made: page.made_at.getTime(),
    events: (eventsOf.get(page.id) ?? []).map(({ kind, at, person }) => ({
      kind,
      at: at.getTime(),
      person,
    })),
    scores: (scoresOf.get(page.id) ?? []).map(({ at }) => at.getTime()),
    sittings: (sittingsOf.get(page.id) ?? []).map(({ begun_at }) => begun_at.getTime()),
  }));
  const { due_at } = await db
    .selectFrom('assignment_class')
    .select('due_at')
    .where('assignment_id', '=', id)
    .where('class_id', '=', klass.id)
    .executeTakeFirstOrThrow();
  const due = due_at?.getTime() ?? null;
  const from = Math.min(...histories.map((one) => one.made));
  const to = Math.max(from, due === null ? now : Math.min(now, due + AFTERWARDS));
  const moments = momentsBetween(from, to, MOST_MOMENTS);
  const counts = statesOverTime(histories, moments);
  const timetable = (await readTimetables(db, klass.school_id, [klass.id])).get(klass.id);
  return {
    states: moments.flatMap((at, i) => (counts[i] ? [{ at, counts: counts[i] }] : [])),
    week: weekOfWork(
      sittings.map((one) => ({ from: one.begun_at.getTime(), to: one.ended_at.getTime() })),
      timetable ? lessonsAfter(timetable, 0) : [],
      klass.time_zone,
    ),
    due,
  };
}
