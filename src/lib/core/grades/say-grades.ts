import { writePoints } from '../marking/points';
import { Decimal } from './exact';
import { shareOf, type CategoryLine, type GradeLine, type Sum } from './grade-line';
import type { GradeRules } from './rules';

/** A share of 1 as people read it, rounded half up: "73.33 %". @param places after the point */
export const sayShare = (share: string, places: number): string =>
  `${new Decimal(share).times(100).toFixed(places)} %`;

/** "23½ of 30". */
export const saySumOf = ({ earned, possible }: Sum): string =>
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
