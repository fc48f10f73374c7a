import { Temporal } from 'temporal-polyfill';
import { dayOf, readLocalTime, writeLocalTime } from './local-time';
import { lessonsAfter, type Lesson, type Timetable } from './lessons';

/**
 * Where a time stands in a term, counted by the class's lessons, the first of which is 1: in a lesson, so many minutes after it
 * begins, or at its end; or so many days after a lesson's day, at a time of the school's clock ("16:00").
 */
type TermPlace =
  | { kind: 'in a lesson'; nth: number; minutes: number }
  | { kind: 'at the end'; nth: number }
  | { kind: 'after a lesson'; nth: number; days: number; clock: string };

const MINUTE = 60_000;

/** A class's term by its lessons: they are counted once, however many times are looked up. */
export class TermLessons {
  readonly #lessons: readonly Lesson[];
  readonly #timeZone: string;

  constructor(timetable: Timetable) {
    this.#lessons = lessonsAfter(timetable, 0);
    this.#timeZone = timetable.timeZone;
  }

  /** Where an instant (epoch milliseconds) stands in the term; null when no lesson was before it. */
  placeOf(at: number): TermPlace | null {
    const index = this.#lessons.findLastIndex(({ starts }) => starts <= at);
    const lesson = this.#lessons[index];
    if (!lesson) return null;
    const nth = index + 1;
    if (at === lesson.ends) return { kind: 'at the end', nth };
    if (at < lesson.ends)
      return { kind: 'in a lesson', nth, minutes: Math.round((at - lesson.starts) / MINUTE) };
    const day = Temporal.PlainDate.from(dayOf(lesson.starts, this.#timeZone));
    const { days } = day.until(Temporal.PlainDate.from(dayOf(at, this.#timeZone)), {
      largestUnit: 'day',
    });
    return {
      kind: 'after a lesson',
      nth,
      days,
      clock: writeLocalTime(at, this.#timeZone).slice(11),
    };
  }

  /** The instant at a place of a term, in epoch milliseconds; null when this one has fewer lessons. */
  timeAt(place: TermPlace): number | null {
    const lesson = this.#lessons[place.nth - 1];
    if (!lesson) return null;
    if (place.kind === 'at the end') return lesson.ends;
    if (place.kind === 'in a lesson')
      return Math.min(lesson.starts + place.minutes * MINUTE, lesson.ends);
    const day = Temporal.PlainDate.from(dayOf(lesson.starts, this.#timeZone));
    return readLocalTime(`${day.add({ days: place.days })}T${place.clock}`, this.#timeZone);
  }

  /** The counterpart of another term's instant in this one; null when there is none. Epoch milliseconds. */
  counterpart(of: TermLessons, at: number): number | null {
    const place = of.placeOf(at);
    return place && this.timeAt(place);
  }
}
