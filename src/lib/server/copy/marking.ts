import { z } from 'zod';
import { listed } from '$core/lists/listed';
import type { EventKind } from '$core/copy/reduce';
import type { CopyRow } from '$core/copy/copy-row';
import { handBackFault } from '$core/copy/state';
import { Scoring, scoringFault, ScoringSpec } from '$core/marking/scoring';
import { GivenParts, givenFault } from '$core/marking/check-copy';
import { sumOf } from '$core/marking/rubric-steps';
import { readPoints, writePoints } from '$core/marking/points';
import type { Grant } from '../access/grant';
import type { Tx } from '../db/transaction';
import { notify } from '../message/messages';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { HOLDERS } from './holders';
import { checkNow, keptCheck } from './mark-by-key';
import { moveOf, recordMove, type Move, type MovedCopy } from './record-move';
import { areBothThere, readApart, type MarkedApart } from './scores-apart';
import { readRubricOf } from './scorings';

/** Why a copy that came again has other points than before, for its students. */
const why = z.string().trim().max(1000, 'What changed has at most 1000 characters.').optional();

/**
 * What a copy is given: points as somebody types them, a scoring by the rubric of its assignment in this version, or points part
 * by part.
 */
export const NewScore = z.union([
  z.strictObject({
    points: z
      .string()
      .transform((text) => readPoints(text))
      .pipe(z.string('Points are a number such as 6, 6½ or 6.5.'))
      .nullable(),
    why,
  }),
  z.strictObject({
    scoring: ScoringSpec,
    why,
    rubric: z.object({ id: z.uuid(), version: z.number().int() }),
  }),
  /** Part by part: by the keys as they are now, but for what somebody gives them. */
  z.strictObject({ parts: GivenParts, why }),
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
    .values({ ...row, ...kept, why: given.why || null })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

async function keptAs(tx: Connection, page: string, copy: CopyRow, given: NewScore) {
  if ('points' in given) return { points: given.points };
  if ('scoring' in given) return keptScoring(tx, copy, given);
  const checked = await checkNow(tx, page, given.parts);
  if (!checked) throw new Refusal(409, 'This page has no answer keys any more. Please look again.');
  const fault = givenFault(checked, given.parts);
  if (fault) throw new Refusal(422, fault);
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

/** Who scores a copy has looked at it. @returns the score that is given: its id */
async function recordScore(
  app: Using<'db' | 'news'>,
  move: Move,
  give: (tx: Tx, at: MovedCopy) => Promise<string>,
): Promise<string> {
  let given = '';
  const also = async (tx: Tx, at: MovedCopy) => {
    given = await give(tx, at);
    return null;
  };
  await recordMove(app, move, () => ['looked'], also);
  return given;
}

/**
 * Scores a copy without handing it back: only the staff see it. Every score stays in the record.
 * @returns its id
 */
export async function score(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  asked: ScoreAsked,
): Promise<string> {
  const move = moveOf(grant);
  return recordScore(app, move, async (tx, at) => {
    await refuseApart(tx, move.page);
    return addScore(tx, move, at, asked);
  });
}

const sayApart = ({ markers }: MarkedApart) =>
  `${listed(markers.map(({ name }) => name))} mark this copy without seeing what the other gives.`;

async function refuseApart(tx: Connection, page: string) {
  const apart = await readApart(tx, page);
  if (apart)
    throw new Refusal(409, `${sayApart(apart)} It has points once their scorings are settled.`);
}

/**
 * Scores a copy as one of two, who do not see what the other gives. It counts once it is settled.
 * @returns its id, among those
 */
export async function scoreApart(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  { given, after }: ScoreAsked,
): Promise<string> {
  const move = moveOf(grant);
  return recordScore(app, move, async (tx, { school, version, copy }) => {
    const apart = await readApart(tx, move.page);
    if (!apart?.markers.some(({ id }) => id === move.person))
      throw new Refusal(409, 'This copy is not yours to mark apart any more. Please look again.');
    if (areBothThere(apart))
      throw new Refusal(409, 'You have both scored this copy. Settle it, and it has its points.');
    const own = apart.scores.find((one) => one?.person === move.person) ?? null;
    if (after !== undefined && after !== (own?.id ?? null))
      throw new Refusal(409, 'You scored this copy elsewhere just now. Please look again.');
    const row = { school_id: school, page_id: move.page, person_id: move.person, version };
    const { id } = await tx
      .insertInto('score_apart')
      .values({ ...row, ...(await keptAs(tx, move.page, copy, given)) })
      .returning('id')
      .executeTakeFirstOrThrow();
    return id;
  });
}

/**
 * Gives a copy that two marked apart the score that counts.
 * @param of the two scorings that whoever settles it has seen
 * @returns its id
 */
export async function settle(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  { given, of }: { given: NewScore; of: readonly string[] },
): Promise<string> {
  const move = moveOf(grant);
  return recordScore(app, move, async (tx, at) => {
    const apart = await readApart(tx, move.page);
    if (!apart) throw new Refusal(409, 'Somebody settled this copy just now.');
    const seen = apart.scores.map((one) => one?.id ?? '');
    if (!areBothThere(apart) || seen.join() !== of.join())
      throw new Refusal(409, `${sayApart(apart)} Somebody scored it just now: please look again.`);
    return addScore(tx, move, at, { given });
  });
}

/**
 * Hands a copy back with its feedback and this score; or, without one, with the last it was given.
 * @returns the score that went back: its id, or null for none
 */
export async function handBack(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  asked: ScoreAsked | null,
): Promise<string | null> {
  const move = moveOf(grant);
  const { page } = move;
  let given: string | null = null;
  // What is scored now was done, here or elsewhere.
  const may = (copy: CopyRow): EventKind[] => {
    if (!asked) refuseUntouched(copy);
    return ['handed back'];
  };
  await recordMove(app, move, may, async (tx, at) => {
    await refuseApart(tx, page);
    given = asked ? await addScore(tx, move, at, asked) : at.copy.score;
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
  return given;
}
