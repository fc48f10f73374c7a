import { planChange, type StandingCopy } from '../handout/change';
import type { PlannedCopy } from '../handout/plan';
import type { Loss } from './level';

/** A copy that is there, with what went of it at once; null where nothing did, or somebody accepted it. */
export interface CountedCopy extends StandingCopy {
  loss: Loss | null;
  /** Since when it is out of its students' sight, in epoch milliseconds. */
  away: number | null;
  /** How many words stand in it. */
  words: number;
}

/** A copy that should be there and is not, or has lost its work. */
export type Gap =
  /** For `copy.members`, of whom one may lack only a place in a page that others share. */
  | { cause: 'never made'; copy: PlannedCopy }
  | { cause: 'removed'; copy: CountedCopy }
  | { cause: 'emptied'; copy: CountedCopy; loss: Loss };

export interface Headcount {
  /** How many copies should be there, and how many are. */
  expected: number;
  there: number;
  gaps: Gap[];
}

/**
 * Expected copies against those that are there.
 * @param wanted what the assignment's plan makes for the classes as they are now
 * @param standing every copy of the assignment
 * @param present the students now in its classes
 */
export function headcount(
  wanted: readonly PlannedCopy[],
  standing: readonly CountedCopy[],
  present: ReadonlySet<string>,
): Headcount {
  const { make, back, members, withdraw, keep } = planChange(standing, wanted, present);
  const never = make.map((copy): Gap => ({ cause: 'never made', copy }));
  const places = members.flatMap(({ copy, members: all }): Gap[] => {
    const lacking = all.filter((id) => !copy.members.includes(id));
    return lacking.length > 0 && copy.standing === 'current'
      ? [{ cause: 'never made', copy: { ...copy, members: lacking } }]
      : [];
  });
  const byId = new Map(standing.map((copy) => [copy.id, copy]));
  const removed = back.flatMap(({ id }): Gap[] => {
    const copy = byId.get(id);
    return copy ? [{ cause: 'removed', copy }] : [];
  });
  const unwanted = new Set([...withdraw, ...keep].map(({ id }) => id));
  const emptied = standing.flatMap((copy): Gap[] =>
    copy.loss &&
    copy.standing === 'current' &&
    !unwanted.has(copy.id) &&
    copy.members.some((id) => present.has(id))
      ? [{ cause: 'emptied', copy, loss: copy.loss }]
      : [],
  );
  return {
    expected: wanted.length,
    there: wanted.length - make.length - back.length,
    gaps: [...never, ...places, ...removed, ...emptied],
  };
}
