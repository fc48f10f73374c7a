import { Decimal } from './exact';
import type { GradeRules } from './rules';

/** How a piece of work counts: as it is, its points on top of the others', or not at all. */
export const COUNTING = ['yes', 'extra', 'no'] as const;
export type Counting = (typeof COUNTING)[number];

/** One piece of work of one student. Points are decimal texts. */
export interface GradedWork {
  id: string;
  title: string;
  category: string;
  /** What it counts for. */
  most: string;
  counting: Counting;
  /** What was handed back; or that it is missing, or excused, or open in any other way. */
  got: { points: string } | 'missing' | 'excused' | 'open';
}

/** Earned of possible points. */
export interface Sum {
  earned: string;
  possible: string;
}

/** One piece of work in its student's sum. */
export interface CountedWork extends Sum {
  work: GradedWork;
  /** Whether its points go into the sum; else why not. */
  why: 'counts' | 'extra' | 'dropped' | 'excused' | 'missing' | 'open' | 'does not count';
}

export interface CategoryLine extends Sum {
  /** Empty for work that is in none of the class's categories. */
  name: string;
  /** Null for work that is in no category. */
  weight: string | null;
  work: CountedWork[];
  /** Whether it goes into the total: something in it counts, and it has a weight where weights count. */
  counts: boolean;
}

export interface GradeLine {
  categories: CategoryLine[];
  /** The whole, as a share of 1, exact to 60 digits; null while nothing counts, or where the class has no total. */
  total: string | null;
  /** By weights: the weights of the categories in which something counts. */
  weights: string;
  /** By points: all of it. */
  sum: Sum;
  /** By the class's scale, from the exact total. */
  grade: string | null;
}

/** The class's category that work is in; empty for none of them. */
export const categoryIn = ({ categories }: GradeRules, category: string): string =>
  categories.some(({ name }) => name === category) ? category : '';

const plus = (all: readonly string[]): string =>
  all.reduce((sum, one) => sum.plus(one), new Decimal(0)).toString();

/** Earned ÷ possible, exact to 60 digits; null where nothing is possible. */
export const shareOf = ({ earned, possible }: Sum): string | null =>
  new Decimal(possible).isZero() ? null : new Decimal(earned).div(possible).toString();

function count(work: GradedWork, missing: GradeRules['missing']): CountedWork {
  const { got, most, counting } = work;
  const nothing = (why: CountedWork['why']) => ({ work, why, earned: '0', possible: '0' });
  if (counting === 'no') return nothing('does not count');
  if (got === 'excused' || got === 'open') return nothing(got);
  if (got === 'missing')
    return missing === 'empty' || counting === 'extra'
      ? nothing('missing')
      : { work, why: 'counts', earned: '0', possible: most };
  return counting === 'extra'
    ? { work, why: 'extra', earned: got.points, possible: '0' }
    : { work, why: 'counts', earned: got.points, possible: most };
}

/** Leaves out the lowest shares, of equal ones the first; one always counts. */
function dropLowest(all: CountedWork[], drop: number): CountedWork[] {
  if (drop === 0) return all;
  const shares = all.flatMap((one, index) => {
    const share = one.why === 'counts' ? shareOf(one) : null;
    return share === null ? [] : [{ index, share: new Decimal(share) }];
  });
  const order = shares.sort((a, b) => a.share.cmp(b.share) || a.index - b.index);
  const out = new Set(order.slice(0, Math.min(drop, order.length - 1)).map(({ index }) => index));
  return all.map((one, index) =>
    out.has(index) ? { ...one, why: 'dropped', earned: '0', possible: '0' } : one,
  );
}

/**
 * A student's sum, and how it comes about. What counts: work that is not excused and was handed back with points, or is
 * missing where missing counts as zero. Extra points are earned only. A total by weights is the mean of the categories'
 * shares, weighted, over those in which anything counts yet.
 */
export function gradeLine(rules: GradeRules, all: readonly GradedWork[]): GradeLine {
  const byWeights = rules.total === 'weights';
  const groups = [
    ...rules.categories.map(({ name, weight, drop }) => ({ name, weight, drop })),
    { name: '', weight: null, drop: 0 },
  ];
  const categories = groups.flatMap(({ name, weight, drop }): CategoryLine[] => {
    const own = all.filter(({ category }) => categoryIn(rules, category) === name);
    if (own.length === 0) return [];
    const work = dropLowest(
      own.map((one) => count(one, rules.missing)),
      drop,
    );
    const earned = plus(work.map((one) => one.earned));
    const possible = plus(work.map((one) => one.possible));
    const isWeighed = weight !== null && !new Decimal(weight).isZero();
    const counts = !new Decimal(possible).isZero() && (!byWeights || isWeighed);
    return [{ name, weight, work, earned, possible, counts }];
  });
  const counting = categories.filter(({ counts }) => counts);
  const weights = plus(counting.map(({ weight }) => weight ?? '0'));
  // By points, extra work counts wherever it stands.
  const sum = {
    earned: plus(categories.map(({ earned }) => earned)),
    possible: plus(categories.map(({ possible }) => possible)),
  };
  const total = totalOf(rules, { counting, weights, sum });
  return { categories, total, weights, sum, grade: gradeOf(rules, total) };
}

function totalOf(
  { total }: GradeRules,
  { counting, weights, sum }: { counting: CategoryLine[]; weights: string; sum: Sum },
): string | null {
  if (total === 'none') return null;
  if (total === 'points') return shareOf(sum);
  if (new Decimal(weights).isZero()) return null;
  return counting
    .reduce(
      (all, { weight, earned, possible }) =>
        all.plus(new Decimal(weight ?? '0').times(earned).div(possible)),
      new Decimal(0),
    )
    .div(weights)
    .toString();
}

function gradeOf({ scale }: GradeRules, total: string | null): string | null {
  if (total === null) return null;
  const percent = new Decimal(total).times(100);
  const reached = scale.filter(({ from }) => percent.gte(from));
  reached.sort((a, b) => new Decimal(b.from).cmp(a.from));
  return reached[0]?.grade ?? null;
}

/** What the weights of a class add up to, of a hundred: "90". */
export const weightsOf = ({ categories }: GradeRules): string =>
  plus(categories.map(({ weight }) => weight));
