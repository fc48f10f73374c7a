import { counted } from '../lists/counted';
import { writePoints } from './points';
import type { RubricTable } from './rubric';
import { stepsOf, type RubricStep, type RubricSum } from './scoring';

/** What the levels of a step say of a criterion: one descriptor, or the two that a half step lies between. */
export function descriptorsOf(
  table: RubricTable,
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
export const stepAt = (table: RubricTable, points: string | null): RubricStep | null =>
  points === null ? null : (stepsOf(table).find((step) => step.points === points) ?? null);

/** "9½ of 20", and how much is left: "9½ of 20 so far, 1 criterion left". */
export const saySum = ({ points, most, left }: RubricSum): string =>
  `${writePoints(points)} of ${writePoints(most)}${
    left > 0 ? ` so far, ${counted(left, 'criterion', 'criteria')} left` : ''
  }`;
