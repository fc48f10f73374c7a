import { Temporal } from 'temporal-polyfill';

export type MailRule = 'gathered' | 'daily' | 'never';

interface QuietHours {
  timeZone: string;
  /** No e-mail goes out between these times of the school's clock: "19:00" and "07:00". */
  from: string;
  to: string;
}

/** What is told within so many milliseconds goes into one e-mail. */
const GATHER = 10 * 60_000;

/**
 * Whether what was told goes out by e-mail now.
 * @param oldest when the first of it was told; epoch milliseconds, as is `now`
 */
export function goesOutNow(
  rule: MailRule,
  oldest: number,
  now: number,
  quiet: QuietHours,
): boolean {
  if (rule === 'never') return false;
  const local = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(quiet.timeZone);
  const clock = local.toPlainTime().toString({ smallestUnit: 'minute' });
  const isQuiet =
    quiet.from <= quiet.to
      ? clock >= quiet.from && clock < quiet.to
      : clock >= quiet.from || clock < quiet.to;
  if (isQuiet) return false;
  if (rule === 'gathered') return oldest <= now - GATHER;
  // Once a day, when the quiet hours end: what was told before that.
  const morning = local.withPlainTime(Temporal.PlainTime.from(quiet.to)).epochMilliseconds;
  return oldest < morning;
}
