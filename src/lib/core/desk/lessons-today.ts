import type { Lesson } from '../calendar/lessons';
import { flagsOf, stateOf, type CopyFacts } from '../copy/state';

/** Shorter breaks are no time to mark in: half an hour, in milliseconds. */
const LEAST_FREE = 30 * 60_000;

/** What stands in somebody's day: their lessons, and the time between them that is free. In epoch milliseconds. */
export type DayEntry<L extends Lesson> =
  | { kind: 'lesson'; starts: number; lesson: L; now: boolean }
  /** `ends`: when the next lesson begins; null for after the last one. */
  | { kind: 'free'; starts: number; ends: number | null };

/** A day of lessons, in order, with what is free between them and after the last. @param now epoch milliseconds */
export function dayOfLessons<L extends Lesson>(lessons: readonly L[], now: number): DayEntry<L>[] {
  const sorted = [...lessons].sort((a, b) => a.starts - b.starts);
  return sorted.flatMap((lesson, i) => {
    const own = {
      kind: 'lesson' as const,
      starts: lesson.starts,
      lesson,
      now: lesson.starts <= now && now < lesson.ends,
    };
    const next = sorted[i + 1]?.starts ?? null;
    const isFree = next === null || next - lesson.ends >= LEAST_FREE;
    return isFree ? [own, { kind: 'free' as const, starts: lesson.ends, ends: next }] : [own];
  });
}

/** How the copies of an assignment stand in a lesson: "Tides: 2 writing now, 5 of 24 not begun", or "22 of 24 began Harbour sketch". */
export function sayLesson(
  { title, running }: { title: string; running: boolean },
  copies: readonly { facts: CopyFacts }[],
  now: number,
): string {
  const idle = copies.filter(({ facts }) => ['unopened', 'opened'].includes(stateOf(facts)));
  const begun = copies.length - idle.length;
  if (!running) return copies.length === 0 ? title : `${begun} of ${copies.length} began ${title}`;
  const writing = copies.filter(({ facts }) => flagsOf(facts, now).now).length;
  const says = [
    `${writing} writing now`,
    idle.length > 0 ? `${idle.length} of ${copies.length} not begun` : '',
  ];
  return copies.length === 0 ? title : `${title}: ${says.filter(Boolean).join(', ')}`;
}
