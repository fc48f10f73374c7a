import Decimal from 'decimal.js';
import { sumOf } from '../src/lib/core/marking/rubric-steps';
import type { Scoring } from '../src/lib/core/marking/scoring';
import type { Chance } from './chance';
import type { Originals } from './course';
import type { DemoOriginal } from './originals';
import { RUBRICS } from './rubrics';

/** A score as it stands in its row: points alone, or a scoring that comes to them. */
export interface DemoScore {
  points: string | null;
  scoring?: string;
  checked?: string;
  rubric_points?: string | null;
  rubric_most?: string | null;
}
export type ScoreBy = (points: string) => DemoScore;

/** Spreads points over the criteria of a rubric whose levels go up by one, as evenly as half steps can. */
export function scoringOf(
  chance: Chance,
  rubric: Scoring['rubric'],
  points: string,
  words: string[],
) {
  const halves = new Decimal(points).times(2).toNumber();
  const count = rubric.table.criteria.length;
  const first = chance.whole(0, count - 1);
  const criteria = rubric.table.criteria.map(({ id }, index) => {
    const more = (index + first) % count < halves % count ? 1 : 0;
    const own = new Decimal(Math.floor(halves / count) + more).div(2).toString();
    return { id, points: own, words: index === first ? (words[first % words.length] ?? '') : '' };
  });
  return { rubric, criteria, overruled: null } satisfies Scoring;
}

/** How the copies of one original are scored. */
export function scorerBy(chance: Chance, originals: Originals, key: DemoOriginal['key']): ScoreBy {
  const rubric = originals.rubricOf(key);
  const { words = [] } = RUBRICS[key] ?? {};
  if (!rubric) return (points) => ({ points });
  return (points) => {
    const scoring = scoringOf(chance, rubric, points, [...words]);
    const sum = sumOf(rubric.table, scoring.criteria);
    return {
      points: null,
      scoring: JSON.stringify(scoring),
      rubric_points: sum.points,
      rubric_most: sum.most,
    };
  };
}
