import Decimal from 'decimal.js';
import type { Checked, GivenParts } from './check-copy';
import { pointsOf, type KeptScore } from './kept-score';
import { samePoints } from './points';
import { stepsOf } from './rubric-steps';
import type { Scoring, ScoringSpec } from './scoring';
import { byKey, givenTo, pointsOfPart } from './sum-parts';

/** What one of two gave a copy: points, a scoring by the rubric, or points part by part. */
export interface OneScore extends KeptScore {
  scoring: Scoring | null;
  checked: Checked | null;
}
type Two = readonly [OneScore, OneScore];

/** One thing that both gave points: a criterion, a part, or the copy as a whole. Points are decimal texts. */
export interface BothGave {
  id: string;
  label: string;
  points: readonly [string, string];
  /** The same in steps: neighbouring levels are one apart, or points are. */
  steps: readonly [number, number];
  words: readonly [string, string];
  /** What may count: what either gave, and what lies in the middle, where that can be given. */
  options: readonly string[];
}
/** The whole copy, where that is what points were given to. */
export const WHOLE = 'whole';

/**
 * What two gave a copy, side by side. By the rubric criterion by criterion, if both used the same; part by part, if both did; else
 * the points of the whole.
 * @param most what the assignment counts for
 */
export function sideBySide(two: Two, most: string | null): BothGave[] {
  const [a, b] = two;
  if (a.scoring && b.scoring && isSameRubric(a.scoring, b.scoring)) {
    const { table } = a.scoring.rubric;
    const scale = stepsOf(table).map(({ points }) => points);
    const lines = table.criteria.flatMap(({ id, title }) => {
      const own = [criterionOf(a, id), criterionOf(b, id)] as const;
      const [first, second] = [own[0]?.points ?? null, own[1]?.points ?? null];
      if (first === null || second === null) return [];
      const at = (points: string) => scale.indexOf(points) / 2;
      const middle = scale[at(first) + at(second)] ?? first;
      const options = distinct([
        first,
        second,
        ...(isBetween(middle, first, second) ? [middle] : []),
      ]);
      const words = [own[0]?.words ?? '', own[1]?.words ?? ''] as const;
      return [
        {
          id,
          label: title,
          points: [first, second] as const,
          steps: [at(first), at(second)] as const,
          words,
          options,
        },
      ];
    });
    return a.scoring.overruled || b.scoring.overruled ? [...lines, ...wholeOf(two, most)] : lines;
  }
  if (a.checked && b.checked) {
    const others = b.checked.parts;
    return a.checked.parts.flatMap((part) => {
      const other = others.find(({ id }) => id === part.id);
      const [first, second] = [pointsOfPart(part), other ? pointsOfPart(other) : null];
      if (first === null || second === null) return [];
      const words = [
        givenTo(part)?.reason ?? '',
        other ? (givenTo(other)?.reason ?? '') : '',
      ] as const;
      return [{ id: part.id, label: `Part ${part.number}`, ...inPoints(first, second), words }];
    });
  }
  return wholeOf(two, most);
}

function wholeOf([a, b]: Two, most: string | null): BothGave[] {
  const [first, second] = [pointsOf(a, most), pointsOf(b, most)];
  if (first === null || second === null) return [];
  const words = [a.scoring?.overruled?.reason ?? '', b.scoring?.overruled?.reason ?? ''] as const;
  return [{ id: WHOLE, label: 'Points', ...inPoints(first, second), words }];
}

function inPoints(first: string, second: string) {
  const middle = new Decimal(first).plus(second).div(2).toDecimalPlaces(2).toString();
  return {
    points: [first, second] as const,
    steps: [Number(first), Number(second)] as const,
    options: distinct([first, second, middle]),
  };
}

const isSameRubric = (a: Scoring, b: Scoring) =>
  a.rubric.id === b.rubric.id && a.rubric.version === b.rubric.version;
const criterionOf = ({ scoring }: OneScore, id: string) =>
  scoring?.criteria.find((one) => one.id === id);
const isBetween = (middle: string, a: string, b: string) =>
  new Decimal(middle).minus(a).times(new Decimal(middle).minus(b)).isNegative();
const distinct = (some: readonly string[]): string[] =>
  some.filter((one, index) => some.findIndex((other) => samePoints(one, other)) === index);

export const areEqual = ({ points: [a, b] }: BothGave): boolean => samePoints(a, b);

/** A score to give: by the rubric, part by part, or points. */
export type SettledScore =
  | { scoring: ScoringSpec; rubric: { id: string; version: number } }
  | { parts: GivenParts }
  | { points: string | null };

/**
 * The score that counts of two.
 * @param chosen what counts, by criterion or part; where both gave the same, nothing need be chosen
 * @returns null while something is left to choose
 */
export function settledScore(
  two: Two,
  chosen: Readonly<Record<string, string>>,
  most: string | null,
): SettledScore | null {
  const lines = sideBySide(two, most);
  const counts = new Map<string, string>();
  for (const line of lines) {
    const points = chosen[line.id] ?? (areEqual(line) ? line.points[0] : null);
    if (points === null) return null;
    counts.set(line.id, points);
  }
  const [a, b] = two;
  if (a.scoring && b.scoring && isSameRubric(a.scoring, b.scoring))
    return settledScoring(a.scoring, [a, b], lines, counts, most);
  if (a.checked && b.checked) return { parts: settledParts(a.checked, lines, counts) };
  return { points: counts.get(WHOLE) ?? null };
}

/** Words that both said, each once. */
const joined = (words: readonly string[]) => [...new Set(words.filter(Boolean))].join('\n');

function settledScoring(
  { rubric }: Scoring,
  two: Two,
  lines: readonly BothGave[],
  counts: ReadonlyMap<string, string>,
  most: string | null,
): SettledScore {
  const criteria = rubric.table.criteria.map(({ id }) => ({
    id,
    points: counts.get(id) ?? null,
    words: joined(lines.find((line) => line.id === id)?.words ?? []).slice(0, 2000),
  }));
  const whole = counts.get(WHOLE);
  const from = two.find(
    (one) => whole !== undefined && samePoints(pointsOf(one, most) ?? '-1', whole),
  );
  const overruled =
    whole === undefined || (from && !from.scoring?.overruled)
      ? null
      : { points: whole, reason: from?.scoring?.overruled?.reason ?? MIDDLE };
  return {
    scoring: { criteria, overruled },
    rubric: { id: rubric.id, version: rubric.version },
  };
}

/** Why points count that neither gave. */
const MIDDLE = 'In the middle of what two markers gave.';

/** A part has what is chosen, with the reason of whoever gave it; where that is what its key gives, nobody gave it. */
function settledParts(
  { parts }: Checked,
  lines: readonly BothGave[],
  counts: ReadonlyMap<string, string>,
): GivenParts {
  return Object.fromEntries(
    parts.flatMap((part) => {
      const points = counts.get(part.id);
      const key = byKey(part);
      if (points === undefined || (key !== null && samePoints(key, points))) return [];
      const line = lines.find(({ id }) => id === part.id);
      const by = line?.points.findIndex((one) => samePoints(one, points)) ?? -1;
      return [[part.id, { points, reason: line?.words[by] ?? MIDDLE }]];
    }),
  );
}
