import { dayOf } from '../calendar/local-time';
import type { Lesson } from '../calendar/lessons';
import { grouped } from '../lists/grouped';
import { LEAST, weekOfWork } from './hours';

/** Somebody worked on a page. Instants in epoch milliseconds. */
export interface WorkedOn {
  page: string;
  from: number;
  to: number;
}

/** Something that happened to one of their copies. */
export interface Happened {
  page: string;
  at: number;
  kind: 'handed in' | 'handed back' | 'taken back';
  /** What it was handed back with: a decimal text. */
  points: string | null;
}

/** A week of a student in a class. */
export interface WeekStory {
  number: number;
  monday: string;
  holiday: boolean;
  /** Milliseconds of work: in lessons, in the evening, and otherwise. */
  lessons: number;
  evenings: number;
  other: number;
  /** What they worked on, the longest first. */
  pages: { page: string; time: number }[];
  happened: Happened[];
}

/**
 * The weeks of a term as a student worked in a class, up to the week it is now: in the order of the term.
 * @param weeks of the term, as `weeksOf` says
 */
export function storyOfWeeks(
  weeks: readonly { number: number; monday: string; schoolDays: number }[],
  worked: readonly WorkedOn[],
  happened: readonly Happened[],
  { lessons, timeZone, now }: { lessons: readonly Lesson[]; timeZone: string; now: number },
): WeekStory[] {
  const mondayOf = (at: number) => {
    const day = dayOf(at, timeZone);
    return weeks.findLast(({ monday }) => monday <= day)?.monday ?? null;
  };
  const workOf = grouped(worked, ({ from }) => mondayOf(from));
  const eventsOf = grouped(happened, ({ at }) => mondayOf(at));
  const today = dayOf(now, timeZone);
  return weeks
    .filter(({ monday }) => monday <= today)
    .map(({ number, monday, schoolDays }) => {
      const sittings = workOf.get(monday) ?? [];
      const days = weekOfWork(sittings, lessons, timeZone);
      const sum = (of: 'lessons' | 'evenings' | 'other') =>
        days.reduce((all, day) => all + day[of], 0);
      const pages = [...grouped(sittings, ({ page }) => page)].map(([page, own]) => ({
        page,
        time: own.reduce((all, { from, to }) => all + Math.max(LEAST, to - from), 0),
      }));
      return {
        number,
        monday,
        holiday: schoolDays === 0,
        lessons: sum('lessons'),
        evenings: sum('evenings'),
        other: sum('other'),
        pages: pages.sort((a, b) => b.time - a.time),
        happened: eventsOf.get(monday) ?? [],
      };
    });
}
