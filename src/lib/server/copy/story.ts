import { sql } from 'kysely';
import { storyOfWeeks, type Happened, type WeekStory } from '$core/board/story-of-weeks';
import { lessonsAfter } from '$core/calendar/lessons';
import { weeksOf } from '$core/calendar/weeks';
import { pointsOf } from '$core/marking/kept-score';
import type { ClassThing } from '../access/relation';
import { readTimetables } from '../calendar/timetables';
import { readTerm } from '../class/board';
import type { Database } from '../db/connect';

/** The weeks of a student in a class: when they worked on which of these pages, and what became of them. */
export async function readStory(
  db: Database,
  klass: ClassThing,
  student: string,
  pages: readonly string[],
  now: number,
): Promise<WeekStory[]> {
  const term = await readTerm(db, klass);
  const sittings = await db
    .selectFrom('sitting')
    .select(['page_id', 'begun_at', 'ended_at'])
    .where('page_id', '=', sql<string>`any(${pages}::uuid[])`)
    .where('person_id', '=', student)
    .execute();
  const events = await db
    .selectFrom('event')
    .leftJoin('score', 'score.id', 'event.score_id')
    .innerJoin('page', 'page.id', 'event.page_id')
    .leftJoin('assignment', 'assignment.id', 'page.assignment_id')
    .select(['event.page_id', 'event.kind', 'event.at', 'assignment.points as most'])
    .select(['score.points', 'score.rubric_points', 'score.rubric_most'])
    .where('event.page_id', '=', sql<string>`any(${pages}::uuid[])`)
    .where('event.kind', 'in', ['handed in', 'handed back', 'taken back'])
    .orderBy('event.id')
    .execute();
  const happened = events.map(({ page_id, kind, at, ...row }): Happened => {
    const { points, rubric_points, rubric_most } = row;
    const rubric =
      rubric_points === null || rubric_most === null
        ? null
        : { points: rubric_points, most: rubric_most };
    return {
      page: page_id,
      at: at.getTime(),
      kind: kind === 'handed back' || kind === 'taken back' ? kind : 'handed in',
      points: kind === 'handed back' ? pointsOf({ points, rubric }, row.most) : null,
    };
  });
  const timetable = (await readTimetables(db, klass.school_id, [klass.id])).get(klass.id);
  return storyOfWeeks(
    weeksOf(term, term.holidays),
    sittings.map((one) => ({
      page: one.page_id,
      from: one.begun_at.getTime(),
      to: one.ended_at.getTime(),
    })),
    happened,
    {
      lessons: timetable ? lessonsAfter(timetable, 0) : [],
      timeZone: klass.time_zone,
      now,
    },
  );
}
