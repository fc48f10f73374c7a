import { z } from 'zod';
import type { EventKind } from '$core/copy/reduce';
import type { CopyRow } from '$core/copy/copy-row';
import { handBackFault } from '$core/copy/state';
import { Scoring, scoringFault, ScoringSpec } from '$core/marking/scoring';
import { Overruled } from '$core/marking/check-copy';
import { sumOf } from '$core/marking/rubric-steps';
import { readPoints, writePoints } from '$core/marking/points';
import type { Grant } from '../access/grant';
import { notify } from '../message/messages';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readCopy } from './facts';
import { HOLDERS } from './holders';
import { checkNow, keptCheck } from './mark-by-key';
import { moveOf, recordMove, type MovedCopy } from './record-move';
import { readRubricOf } from './scorings';

/**
 * What a copy is given: points as somebody types them, a scoring by the rubric of its assignment in this version, or what its
 * answer keys come to.
 */
export const NewScore = z.union([
  z.strictObject({
    points: z
      .string()
      .transform((text) => readPoints(text))
      .pipe(z.string('Points are a number such as 6, 6½ or 6.5.'))
      .nullable(),
  }),
  z.strictObject({
    scoring: ScoringSpec,
    rubric: z.object({ id: z.uuid(), version: z.number().int() }),
  }),
  /** By the keys as they are now, but for what somebody decides otherwise. */
  z.strictObject({ overruled: Overruled }),
]);
type NewScore = z.infer<typeof NewScore>;
type NewScoring = Extract<NewScore, { scoring: unknown }>;

interface ScoreAsked {
  given: NewScore;
  /** The last score that whoever gives this one has seen; null for none, left out where that does not matter. */
  after?: string | null;
}

/** Adds a score to a copy's record: nothing of the record is changed. @returns its id */
async function addScore(
  tx: Connection,
  { page, person }: { page: string; person: string },
  { school, version, copy }: MovedCopy,
  { given, after }: ScoreAsked,
): Promise<string> {
  if (after !== undefined && after !== copy.score)
    throw new Refusal(409, await sayScoredMeanwhile(tx, copy));
  const row = { school_id: school, page_id: page, person_id: person, version };
  const kept = await keptAs(tx, page, copy, given);
  const { id } = await tx
    .insertInto('score')
    .values({ ...row, ...kept })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

async function keptAs(tx: Connection, page: string, copy: CopyRow, given: NewScore) {
  if ('points' in given) return { points: given.points };
  if ('scoring' in given) return keptScoring(tx, copy, given);
  const checked = await checkNow(tx, page, given.overruled);
  if (!checked) throw new Refusal(409, 'This page has no answer keys any more. Please look again.');
  return keptCheck(checked);
}

async function keptScoring(
  tx: Connection,
  copy: CopyRow,
  { scoring: spec, rubric: seen }: NewScoring,
) {
  const rubric = await readRubricOf(tx, copy.assignment);
  if (!rubric) throw new Refusal(409, 'This assignment has no rubric any more. Please look again.');
  if (rubric.id !== seen.id || rubric.version !== seen.version)
    throw new Refusal(409, 'The rubric was changed just now. Please look at it again.');
  const fault = scoringFault(rubric.table, spec);
  if (fault) throw new Refusal(422, fault);
  const scoring: Scoring = { ...spec, rubric };
  const sum = sumOf(rubric.table, spec.criteria);
  return {
    points: spec.overruled?.points ?? null,
    scoring: JSON.stringify(scoring),
    ...(sum.left === 0 ? { rubric_points: sum.points, rubric_most: sum.most } : {}),
  };
}

async function sayScoredMeanwhile(tx: Connection, { score, points }: CopyRow): Promise<string> {
  const by = await tx
    .selectFrom('score')
    .innerJoin('person', 'person.id', 'score.person_id')
    .select(['given', 'called'])
    .where('score.id', '=', score ?? '0')
    .executeTakeFirst();
  return `${by?.called || by?.given || 'Somebody else'} scored this copy just now${
    points === null ? '' : `: ${writePoints(points)} points`
  }.`;
}

const refuseUntouched = ({ facts }: CopyRow) => {
  if (handBackFault(facts))
    throw new Refusal(409, 'This copy has not been opened yet, so there is nothing to hand back.');
};

/** Scores a copy without handing it back: only the staff see it. Every score stays in the record. */
export async function score(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  asked: ScoreAsked,
): Promise<void> {
  const move = moveOf(grant);
  await recordMove(
    app,
    move,
    () => ['looked'],
    async (tx, at) => {
      await addScore(tx, move, at, asked);
      return null;
    },
  );
}

/** Hands a copy back with its feedback and this score; or, without one, with the last it was given. */
export async function handBack(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  asked: ScoreAsked | null,
): Promise<void> {
  const move = moveOf(grant);
  const { page } = move;
  // What is scored now was done, here or elsewhere.
  const may = (copy: CopyRow): EventKind[] => {
    if (!asked) refuseUntouched(copy);
    return ['handed back'];
  };
  await recordMove(app, move, may, async (tx, at) => {
    const given = asked ? await addScore(tx, move, at, asked) : at.copy.score;
    const { title, people } = await tx
      .selectFrom('page')
      .select(['title', HOLDERS.as('people')])
      .where('id', '=', page)
      .executeTakeFirstOrThrow();
    await notify(tx, {
      school: at.school,
      people,
      link: `/work/${page}`,
      fact: { kind: 'handed back', title },
      cause: `handed back ${page} ${Date.now()}`,
    });
    return given;
  });
}

/** A copy as it stands for whoever marks it. */
export const readMarked = (db: Connection, { thing, person }: Grant<'mark'>): Promise<CopyRow> =>
  readCopy(db, thing.id, person.id);
