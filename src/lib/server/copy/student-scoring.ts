import { sql } from 'kysely';
import { z } from 'zod';
import { Scoring, scoringFault, ScoringSpec } from '$core/marking/scoring';
import type { StudentScoring } from '$core/marking/student-scoring';
import type { Tx } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { readRubricOf } from './scorings';

/** Whose scoring, and of what: `by` is the copy of those who gave it, null where they scored their own. */
interface Whose {
  page: string;
  by: string | null;
}

/** Null where they have not scored it. */
export async function readStudentScoring(
  db: Connection,
  { page, by }: Whose,
): Promise<StudentScoring | null> {
  const row = await db
    .selectFrom('student_scoring')
    .select(['id', 'scoring'])
    .where('page_id', '=', page)
    .where(sql<boolean>`by_page_id is not distinct from ${by}::uuid`)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { id: row.id, scoring: Scoring.parse(row.scoring) } : null;
}

export const NewStudentScoring = z.strictObject({
  given: z.object({
    scoring: ScoringSpec.extend({ overruled: z.null() }),
    rubric: z.object({ id: z.uuid(), version: z.number().int() }),
  }),
  /** The last one that was seen; null for none. */
  after: z.string().nullable(),
});

/**
 * Adds what a student gave a copy, which is locked.
 * @param at the version of the copy that they saw
 * @returns its id, as a score
 * @throws Refusal where the rubric, or somebody they share their copy with, was quicker
 */
export async function addStudentScoring(
  tx: Tx,
  whose: Whose & { person: string; assignment: string },
  at: { version: number; school_id: number },
  { given, after }: z.infer<typeof NewStudentScoring>,
): Promise<{ score: string }> {
  const rubric = await readRubricOf(tx, whose.assignment);
  if (!rubric || rubric.id !== given.rubric.id || rubric.version !== given.rubric.version)
    throw new Refusal(409, 'The rubric was changed just now. Please look at it again.');
  const fault = scoringFault(rubric.table, given.scoring);
  if (fault) throw new Refusal(422, fault);
  const last = await readStudentScoring(tx, whose);
  if ((last?.id ?? null) !== after)
    throw new Refusal(409, 'One of you scored it meanwhile. Please look again.');
  const scoring: Scoring = { ...given.scoring, rubric };
  const { id } = await tx
    .insertInto('student_scoring')
    .values({
      school_id: at.school_id,
      page_id: whose.page,
      by_page_id: whose.by,
      person_id: whose.person,
      version: at.version,
      scoring: JSON.stringify(scoring),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { score: id };
}
