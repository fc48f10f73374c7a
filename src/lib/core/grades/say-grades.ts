import { writePoints } from '../marking/points';
import { Decimal } from './exact';
import { shareOf, type CategoryLine, type GradeLine, type Sum } from './grade-line';
import type { GradeRules } from './rules';

/** A share of 1 as so many of a hundred, rounded half up: "73.33". @param places after the point */
export const percentOf = (share: string, places: number): string =>
  new Decimal(share).times(100).toFixed(places);

/** "73.33 %". */
export const sayShare = (share: string, places: number): string => `${percentOf(share, places)} %`;

/** "23½ of 30". */
const saySumOf = ({ earned, possible }: Sum): string =>
  `${writePoints(earned)} of ${writePoints(possible)}`;

/** "23½ of 30 = 78.33 %"; what is left of it where nothing counts. */
export function sayCategorySum(line: Sum, places: number): string {
  const share = shareOf(line);
  return share === null ? 'nothing counts yet' : `${saySumOf(line)} = ${sayShare(share, places)}`;
}

/** How a total comes about, in one sentence; null for no total. */
export function sayTotal(rules: GradeRules, line: GradeLine): string | null {
  if (line.total === null) return null;
  const total = sayShare(line.total, rules.places);
  if (rules.total === 'points') return `${saySumOf(line.sum)} = ${total}`;
  const terms = line.categories.filter(({ counts }) => counts);
  const term = ({ weight, ...sum }: CategoryLine) =>
    `${writePoints(weight ?? '0')} × ${sayShare(shareOf(sum) ?? '0', rules.places)}`;
  return `(${terms.map(term).join(' + ')}) ÷ ${writePoints(line.weights)} = ${total}`;
}

/** How a class counts, in a line: "Tasks 40 %, Tests 60 %; missing counts as zero". */
export function sayRules({ total, missing, categories }: GradeRules): string {
  const weights = categories.map(({ name, weight }) => `${name} ${writePoints(weight)} %`);
  const how = {
    none: 'no total',
    points: 'all points together',
    weights: weights.join(', ') || 'weighted categories, none yet',
  }[total];
  return `${how}; missing ${missing === 'zero' ? 'counts as zero' : 'does not count'}`;
}
