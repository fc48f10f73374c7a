import { mean } from 'simple-statistics';

/** What two people gave the same thing, as numbers on one scale. */
export type Pair = readonly [number, number];

/** How far two markers agree on one criterion. Shares from 0 to 1. */
export interface Agreement {
  of: number;
  equal: number;
  /** Equal, or not more than half a step apart. */
  near: number;
  /** Cohen's kappa, −1 to 1; null where both gave the same to all, so that chance alone would agree. */
  kappa: number | null;
  /** The same, with differences counted by how large they are (linear weights). */
  weighted: number | null;
}

/** How much a difference counts. */
type Weight = (difference: number) => number;
const ALIKE_OR_NOT: Weight = (difference) => (difference === 0 ? 0 : 1);
export const LINEAR: Weight = Math.abs;
export const QUADRATIC: Weight = (difference) => difference ** 2;

/**
 * Cohen's kappa: 1 − (disagreement that was seen) / (disagreement that chance gives, with how often each gave each value).
 * Cohen, A coefficient of agreement for nominal scales (1960); with weights: Cohen, Weighted kappa (1968).
 * @returns null where chance alone gives no disagreement
 */
export function kappaOf(pairs: readonly Pair[], weight: Weight = ALIKE_OR_NOT): number | null {
  if (pairs.length === 0) return null;
  const seen = mean(pairs.map(([a, b]) => weight(a - b)));
  const expected = mean(pairs.flatMap(([a]) => pairs.map(([, b]) => weight(a - b))));
  return expected === 0 ? null : 1 - seen / expected;
}

/** @param pairs in steps: neighbouring levels are one step apart @returns null of none */
export function agreementOf(pairs: readonly Pair[]): Agreement | null {
  if (pairs.length === 0) return null;
  const differences = pairs.map(([a, b]) => Math.abs(a - b));
  const share = (fits: (difference: number) => boolean) =>
    differences.filter(fits).length / pairs.length;
  return {
    of: pairs.length,
    equal: share((one) => one === 0),
    near: share((one) => one <= 0.5),
    kappa: kappaOf(pairs),
    weighted: kappaOf(pairs, LINEAR),
  };
}

/** Of fewer copies a kappa says little. */
const FEW = 10;

/** Landis and Koch, The measurement of observer agreement for categorical data (1977): up to which kappa they say what. */
const IN_WORDS = [
  [0, 'no better than chance'],
  [0.2, 'slight'],
  [0.4, 'fair'],
  [0.6, 'moderate'],
  [0.8, 'substantial'],
  [1, 'almost perfect'],
] as const;

/** What a kappa means, in words. */
export function sayKappa(kappa: number | null, of: number): string {
  if (kappa === null) return 'both gave the same to all, so chance says nothing';
  // A sum of decimals may miss a bound by a hair.
  const word = IN_WORDS.find(([most]) => kappa <= most + 1e-9)?.[1] ?? '';
  return of < FEW ? `${word}, of few copies` : word;
}
