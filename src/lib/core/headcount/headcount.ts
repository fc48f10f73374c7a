import type { CopyRow } from '../copy/copy-row';
import { planChange, type StandingCopy } from '../handout/change';
import type { PlannedCopy } from '../handout/plan';
import { gapsOfCopy, left, neverMade, removed, type CountedCopy } from './causes';
import { CAUSES, type Gap } from './gap';

/** A copy that was handed out, with how it stands in its plan. */
export type StandingCount = StandingCopy & Omit<CountedCopy, 'assignment'>;

export interface Headcount {
  /** How many copies should be there, and how many are. */
  expected: number;
  there: number;
  /** What is missing, and what was left by who is gone; what went of a copy that is there, its own row tells. */
  gaps: Gap[];
}

interface Counted {
  assignment: string;
  /** What the assignment's plan makes for the classes as they are now. */
  wanted: readonly PlannedCopy[];
  /** Every copy of the assignment. */
  standing: readonly StandingCount[];
  /** The students now in its classes. */
  present: ReadonlySet<string>;
  /** Who need not do it. */
  excused: ReadonlySet<string>;
  /** When somebody came into the class, in epoch milliseconds. */
  joined: (student: string) => number | null;
}

/** Expected copies against those that are there. */
export function headcount({ wanted, standing, present, ...rest }: Counted): Headcount {
  const { assignment } = rest;
  const { make, back, members } = planChange(standing, wanted, present);
  const places = members.flatMap(({ copy, members: all }) => {
    const lacking = all.filter((id) => !copy.members.includes(id));
    return lacking.length > 0 && copy.standing === 'current' ? [{ ...copy, members: lacking }] : [];
  });
  const byId = new Map(standing.map((copy) => [copy.id, { ...copy, assignment }]));
  const gone = back.flatMap(({ id }) => byId.get(id) ?? []);
  const gaps = [
    ...[...make, ...places].map((copy) => neverMade(copy, rest)),
    ...gone.map(removed),
    ...[...byId.values()].filter((copy) => copy.standing === 'current').map(left),
  ];
  return {
    expected: wanted.length,
    there: wanted.length - make.length - back.length,
    gaps: gaps.filter((gap) => gap !== null),
  };
}

/**
 * All gaps of a board that is patched: what is missing as it was counted, what its copies say now, and what was found on other
 * pages; of one cause after the other.
 * @param now epoch milliseconds
 */
export function gapsNow(
  counts: readonly { gaps: readonly Gap[] }[],
  copies: readonly CopyRow[],
  elsewhere: readonly Gap[],
  now: number,
): Gap[] {
  const all = [
    ...counts.flatMap(({ gaps }) => gaps),
    ...copies.flatMap((copy) => gapsOfCopy(copy, now)),
    ...elsewhere,
  ];
  return CAUSES.flatMap((cause) => all.filter((gap) => gap.cause === cause));
}
