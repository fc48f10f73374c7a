import type { LessonSlot } from './lessons';

/** A stretch of the school's year; dates as "2026-10-26", both ends included. */
export interface Stretch {
  id: string | null;
  name: string;
  starts: string;
  ends: string;
}

const overlaps = (a: Stretch, b: Stretch) => a.starts <= b.ends && b.starts <= a.ends;
const DAY = 86_400_000;
const days = ({ starts, ends }: Stretch) => (Date.parse(ends) - Date.parse(starts)) / DAY + 1;

/** What stands against a new or changed term beside the others; null for nothing. */
export function termFault(term: Stretch, others: readonly Stretch[]): string | null {
  if (term.ends < term.starts) return 'The term ends before it begins.';
  if (days(term) > 366) return 'A term is at most a year long.';
  const other = others.find((one) => one.id !== term.id && overlaps(one, term));
  return other ? `It overlaps ${other.name}, ${other.starts} to ${other.ends}.` : null;
}

/** What stands against a new or changed holiday; null for nothing. */
export function holidayFault(holiday: Stretch): string | null {
  if (holiday.ends < holiday.starts) return 'The holiday ends before it begins.';
  return days(holiday) > 120 ? 'A holiday is at most 120 days long.' : null;
}

/** What stands against a new weekly lesson beside the class's others; null for nothing. */
export function slotFault(slot: LessonSlot, others: readonly LessonSlot[]): string | null {
  if (slot.ends <= slot.starts) return 'The lesson ends before it begins.';
  const other = others.find(
    (one) => one.weekday === slot.weekday && one.starts < slot.ends && slot.starts < one.ends,
  );
  return other ? `The class has a lesson then already, ${other.starts} to ${other.ends}.` : null;
}
