import Decimal from 'decimal.js';
import type { Checked } from './check-copy';
import { writePoints } from './points';
import type { Scoring } from './scoring';
import { pointsOfPart } from './sum-parts';

/** What a copy was given, by the rubric or part by part. */
export interface Given {
  scoring: Scoring | null;
  checked: Checked | null;
}

/** What a student got back earlier, to compare with. */
export interface LastTime extends Given {
  /** What work it was; null for the same copy. */
  title: string | null;
  /** Epoch milliseconds. */
  at: number;
  /** What that came to, of what it counted for; null for none. */
  points: string | null;
  most: string | null;
}

/** One criterion or part that was scored before and now. Points are decimal texts. */
export interface Compared {
  id: string;
  label: string;
  was: string;
  is: string;
}

/** What both scored, in the order of now; what only one has is left out. */
export function beforeAndNow(before: Given, now: Given): Compared[] {
  if (before.scoring && now.scoring) {
    const { criteria } = before.scoring;
    const own = now.scoring.criteria;
    return now.scoring.rubric.table.criteria.flatMap(({ id, title }) =>
      compared(id, title, pointsIn(criteria, id), pointsIn(own, id)),
    );
  }
  const parts = before.checked?.parts ?? [];
  return (now.checked?.parts ?? []).flatMap((part) => {
    const other = parts.find(({ id }) => id === part.id);
    const label = `Part ${part.number}`;
    return compared(part.id, label, other ? pointsOfPart(other) : null, pointsOfPart(part));
  });
}

const pointsIn = (criteria: Scoring['criteria'], id: string) =>
  criteria.find((one) => one.id === id)?.points ?? null;
const compared = (id: string, label: string, was: string | null, is: string | null): Compared[] =>
  was === null || is === null ? [] : [{ id, label, was, is }];

/** "½ more", "2 fewer", "the same" */
export function sayDifference({ was, is }: Pick<Compared, 'was' | 'is'>): string {
  const by = new Decimal(is).minus(was);
  if (by.isZero()) return 'the same';
  return `${writePoints(by.abs().toString())} ${by.isPositive() ? 'more' : 'fewer'}`;
}
