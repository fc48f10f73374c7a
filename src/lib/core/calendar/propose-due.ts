import { lessonsAfter, lessonsOn, type Timetable } from './lessons';
import { writeLocalTime } from './local-time';
import type { DueSpec } from '../handout/spec';

/** So many lessons ahead are offered for a due time. */
const OFFERED = 4;

/** Students are reminded so many minutes before it is due, unless another time is chosen: in the afternoon before a lesson of the morning. */
export const USUAL_REMINDER = 18 * 60;

/**
 * The due times that are offered: for one class the ends of its next lessons, for several each one's own next lesson.
 * @param now epoch milliseconds
 */
export function dueChoices(classes: readonly Timetable[], now: number): DueSpec[] {
  const [first, ...others] = classes;
  if (!first) return [];
  if (others.length > 0)
    return Array.from({ length: OFFERED - 1 }, (_, n) => ({ kind: 'lesson', nth: n + 1 }));
  return lessonsAfter(first, now, OFFERED).map(({ ends }) => ({
    kind: 'at',
    local: writeLocalTime(ends, first.timeZone),
  }));
}

/**
 * The due time that a hand-out begins with: the end of the second lesson from now, so that there is one to work in; of the
 * only one that is left; without lessons none.
 * @param now epoch milliseconds
 */
export function proposeDue(classes: readonly Timetable[], now: number): DueSpec {
  const [first, ...others] = classes;
  const lessons = first ? lessonsAfter(first, now, 2) : [];
  const last = lessons.at(-1);
  if (!first || !last) return { kind: 'none' };
  return others.length > 0
    ? { kind: 'lesson', nth: 2 }
    : { kind: 'at', local: writeLocalTime(last.ends, first.timeZone) };
}

/**
 * The time that is proposed for a chosen day: when the first lesson of these classes begins on it, or the last one ends; without
 * a lesson the beginning or the end of a usual school day.
 * @returns "14:50"
 */
export function timeOn(
  classes: readonly Timetable[],
  day: string,
  edge: 'starts' | 'ends',
): string {
  const edges = classes
    .flatMap((timetable) =>
      lessonsOn(timetable, day).map((lesson) =>
        writeLocalTime(lesson[edge], timetable.timeZone).slice(11),
      ),
    )
    .sort();
  return edge === 'starts' ? (edges[0] ?? '08:00') : (edges.at(-1) ?? '16:00');
}
