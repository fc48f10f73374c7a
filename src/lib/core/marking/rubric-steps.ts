import Decimal from 'decimal.js';
import { counted } from '../lists/counted';
import { writePoints } from './points';

/** What is needed of a rubric here: a table has it. */
interface Scale {
  levels: readonly number[];
  criteria: readonly { id: string; descriptors: readonly string[] }[];
}
/** What one criterion was given: a step's points, or null for none yet. */
interface CriterionScore {
  id: string;
  points: string | null;
}

/** The most points that the whole rubric can give. */
export const totalOf = ({ levels, criteria }: Scale): number =>
  criteria.length === 0 ? 0 : Math.max(...levels) * criteria.length;

/** A place on a rubric's scale. */
export interface RubricStep {
  /** Decimal text: a level's points, or the mean of two neighbouring levels' points. */
  points: string;
  /** Which levels of the table it means: one, or the two that a half step lies between. */
  levels: readonly number[];
}

/** All levels and the half steps between neighbours, from the fewest points to the most. */
export function stepsOf({ levels }: Pick<Scale, 'levels'>): RubricStep[] {
  const order = levels.map((_, index) => index).sort((a, b) => pointsAt(a) - pointsAt(b));
  function pointsAt(index: number): number {
    return levels[index] ?? 0;
  }
  return order.flatMap((index, at) => {
    const level = { points: `${pointsAt(index)}`, levels: [index] };
    const above = order[at + 1];
    if (above === undefined) return [level];
    const mean = new Decimal(pointsAt(index)).plus(pointsAt(above)).div(2);
    return [level, { points: mean.toString(), levels: [index, above] }];
  });
}

/** What a scoring comes to. Points are decimal texts. */
export interface RubricSum {
  /** Of the criteria that are scored. */
  points: string;
  /** What the whole rubric can give. */
  most: string;
  /** How many criteria are not scored yet. */
  left: number;
}

export function sumOf(table: Scale, criteria: readonly CriterionScore[]): RubricSum {
  const given = table.criteria.flatMap(({ id }) => {
    const points = criteria.find((one) => one.id === id)?.points ?? null;
    return points === null ? [] : [points];
  });
  return {
    points: given.reduce((sum, one) => sum.plus(one), new Decimal(0)).toString(),
    most: `${totalOf(table)}`,
    left: table.criteria.length - given.length,
  };
}

/** What the levels of a step say of a criterion: one descriptor, or the two that a half step lies between. */
export function descriptorsOf(
  table: Scale,
  criterion: string,
  step: RubricStep,
): { points: string; says: string }[] {
  const descriptors = table.criteria.find(({ id }) => id === criterion)?.descriptors ?? [];
  return step.levels.map((level) => ({
    points: `${table.levels[level] ?? ''}`,
    says: descriptors[level] ?? '',
  }));
}

/** The step of a rubric's scale that has these points. */
export const stepAt = (table: Scale, points: string | null): RubricStep | null =>
  points === null ? null : (stepsOf(table).find((step) => step.points === points) ?? null);

/** "9½ of 20", and how much is left: "9½ of 20 so far, 1 criterion left". */
export const saySum = ({ points, most, left }: RubricSum): string =>
  `${writePoints(points)} of ${writePoints(most)}${
    left > 0 ? ` so far, ${counted(left, 'criterion', 'criteria')} left` : ''
  }`;
