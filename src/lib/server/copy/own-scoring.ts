import type { z } from 'zod';
import { isWithTeacher, stateOf } from '$core/copy/state';
import type { StudentScoringAsked } from '$core/marking/student-scoring';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { publishToStaff } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readCopy } from './facts';
import { lockPage } from './lock-page';
import { readRubricOf } from './scorings';
import { addStudentScoring, readStudentScoring, type NewStudentScoring } from './student-scoring';

/** Whether the students of a class score an assignment’s copies themselves; null where it has no rubric. */
export async function readOwnScoringAsked(
  db: Connection,
  at: { assignment: string; class: string },
): Promise<boolean | null> {
  const row = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['own_scoring', 'rubric_id'])
    .where('assignment_id', '=', at.assignment)
    .where('class_id', '=', at.class)
    .executeTakeFirst();
  return row?.rubric_id ? row.own_scoring : null;
}

/** Asks it of them from now on, or not any more; what they gave stays. @throws Refusal without a rubric */
export async function askOwnScoring(
  app: Using<'db'>,
  { thing }: Grant<'run the assignment'>,
  asked: boolean,
): Promise<void> {
  const at = { assignment: thing.id, class: thing.class.id };
  if ((await readOwnScoringAsked(app.db, at)) === null)
    throw new Refusal(409, 'This assignment is not scored by a rubric.');
  await app.db
    .updateTable('assignment_class')
    .set({ own_scoring: asked })
    .where('assignment_id', '=', at.assignment)
    .where('class_id', '=', at.class)
    .execute();
}

/** What a student has before them, to score their own copy by. */
export async function viewOwnScoring(
  db: Connection,
  { thing }: Grant<'see own copy'>,
): Promise<StudentScoringAsked | null> {
  const { assignment_id: assignment, class_id } = thing;
  if (!assignment || !class_id) return null;
  if (!(await readOwnScoringAsked(db, { assignment, class: class_id }))) return null;
  const [rubric, last] = await Promise.all([
    readRubricOf(db, assignment),
    readStudentScoring(db, { page: thing.id, by: null }),
  ]);
  return rubric && { rubric, last };
}

/**
 * Scores one’s own copy, while it is with its students.
 * @throws Refusal where that is not asked, the copy is with the teacher, or somebody who shares it did so meanwhile
 */
export async function scoreOwn(
  app: Using<'db' | 'news'>,
  grant: Grant<'do own work'>,
  given: z.infer<typeof NewStudentScoring>,
): Promise<{ score: string }> {
  const { thing, person } = grant;
  const score = await inTransaction(app.db, async (tx) => {
    const at = await lockPage(tx, thing.id);
    const copy = await readCopy(tx, thing.id, person.id);
    if (!(await readOwnScoringAsked(tx, copy)))
      throw new Refusal(409, 'You are not asked to score this yourself any more.');
    if (isWithTeacher(stateOf(copy.facts)))
      throw new Refusal(409, 'It is handed in. Take it back to score it differently.');
    const { assignment } = copy;
    const whose = { page: thing.id, by: null, person: person.id, assignment };
    return addStudentScoring(tx, whose, at, given);
  });
  if (thing.class_id) publishToStaff(app, thing.class_id);
  return score;
}
