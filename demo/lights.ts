import type { Scoring } from '../src/lib/core/marking/scoring';
import type { App } from '../src/lib/server/app';
import { readRubricOf } from '../src/lib/server/copy/scorings';
import type { School } from './school';

/** *A light’s character* in one of its classes, with the rubric that it is scored by. */
export async function lightsIn(
  app: App,
  school: School,
  name: string,
): Promise<{ at: { assignment: string; klass: string }; rubric: Scoring['rubric'] }> {
  const klass = school.classes.find((one) => one.name === name)?.id ?? '';
  const { id: assignment } = await app.db
    .selectFrom('assignment')
    .select('id')
    .where('title', '=', 'A light’s character')
    .where('school_id', '=', school.id)
    .orderBy('made_at', 'desc')
    .executeTakeFirstOrThrow();
  const rubric = await readRubricOf(app.db, assignment);
  if (!rubric) throw new Error('it has no rubric');
  return { at: { assignment, klass }, rubric };
}
