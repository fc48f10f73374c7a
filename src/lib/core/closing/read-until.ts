import { Temporal } from 'temporal-polyfill';

/** Of an archived class students read their own work for so long, unless its teacher says otherwise. */
const USUAL = { months: 3 };

/** The last day for reading that is proposed, from today and the last day of the term: "2027-03-19". */
export const proposeReadUntil = (today: string, termEnds: string): string =>
  Temporal.PlainDate.from(today > termEnds ? today : termEnds)
    .add(USUAL)
    .toString();
