import { counted } from '../lists/counted';
import type { Checked, CheckedPart, GivenParts } from './check-copy';
import { sumPoints, writePoints } from './points';

/** What a part counts for. */
export const mostOf = ({ most }: CheckedPart): string => most ?? '1';

/** What its key gives a part; null where a person has to. */
export function byKey(part: CheckedPart): string | null {
  if (part.verdict === 'by hand') return null;
  return part.points ?? (part.verdict === 'right' ? mostOf(part) : '0');
}

/** What a person gave a part, whatever its key says; null for nothing. */
export function givenTo(part: CheckedPart): { points: string; reason: string } | null {
  if (part.given) return part.given;
  if (!part.overruled) return null;
  return { points: part.overruled === 'right' ? mostOf(part) : '0', reason: '' };
}

/** What a part counts; null where a person has to score it yet. */
export const pointsOfPart = (part: CheckedPart): string | null =>
  givenTo(part)?.points ?? byKey(part);

/** The share of its points that a part has, from 0 to 1; null for one that is not there, or not scored. */
export function shareOfPart(part: CheckedPart | undefined): number | null {
  const points = part && pointsOfPart(part);
  if (!part || points === null || points === undefined) return null;
  return Number(mostOf(part)) === 0 ? 0 : Number(points) / Number(mostOf(part));
}

/** What somebody gave the parts by hand. */
export const givenIn = (checked: Checked | null): GivenParts =>
  Object.fromEntries(
    (checked?.parts ?? []).flatMap((part) => {
      const given = givenTo(part);
      return given ? [[part.id, given]] : [];
    }),
  );

/** What the parts come to, of how many points, and how many are not scored yet. */
export interface PartsSum {
  points: string;
  most: string;
  left: number;
  /** Whether each counts one point, and has it or not. */
  plain: boolean;
}

export function sumParts({ parts }: Checked): PartsSum {
  const points = parts.map(pointsOfPart);
  return {
    points: sumPoints(points.map((one) => one ?? '0')),
    most: sumPoints(parts.map(mostOf)),
    left: points.filter((one) => one === null).length,
    plain:
      parts.every((part) => mostOf(part) === '1') &&
      points.every((one) => one === '0' || one === '1'),
  };
}

/** "5 of 6 right", "7½ of 10 points", "4 of 10 points so far, 2 parts left" */
export function sayParts({ points, most, left, plain }: PartsSum): string {
  const sum = `${writePoints(points)} of ${writePoints(most)} ${plain ? 'right' : 'points'}`;
  return left === 0 ? sum : `${sum} so far, ${counted(left, 'part')} left`;
}
