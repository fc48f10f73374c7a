import { z } from 'zod';
import { checkParts, GivenPart, givenFault } from '$core/marking/check-copy';
import { givenIn, pointsOfPart } from '$core/marking/sum-parts';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { addChecked } from './add-checked';
import { readMarkedClasses, readScoredCopies, type ScoredCopy } from './scored-copies';

const MOST_COPIES = 5000;

/** Points for one part of several copies. */
export const PartScores = z.object({
  part: z.string().max(200),
  scores: z
    .array(
      z.object({
        copy: z.uuid(),
        /** What it had when whoever scores it saw it. */
        was: z.string().nullable(),
        /** Null for what its key says, or nothing. */
        given: GivenPart.nullable(),
      }),
    )
    .min(1)
    .max(MOST_COPIES),
});
type PartScores = z.infer<typeof PartScores>;

/** What became of scoring a pile. */
export interface PartScored {
  /** What the scored copies were given before, and the points they have now: to undo it. */
  before: { copy: string; given: GivenPart | null; now: string | null }[];
  /** Copies that stay as they are. */
  meanwhile: number;
  otherwise: number;
}

/**
 * Gives a part of several copies points, all in one transaction. Copies that somebody else scored meanwhile, or that were
 * scored otherwise than part by part, stay as they are.
 * @throws Refusal where the part counts nothing, or a reason is missing
 */
export async function scorePart(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark its copies'>,
  { part, scores }: PartScores,
): Promise<PartScored> {
  const { thing, person } = grant;
  const asked = new Map(scores.map((one) => [one.copy, one]));
  const result: PartScored = { before: [], meanwhile: 0, otherwise: 0 };
  const classes = new Set<string>();
  await inTransaction(app.db, async (tx) => {
    await refuseRubric(tx, thing.id);
    await tx
      .selectFrom('page')
      .select('id')
      .where('id', 'in', [...asked.keys()])
      .where('assignment_id', '=', thing.id)
      .orderBy('id')
      .forUpdate()
      .execute();
    const marked = (await readMarkedClasses(tx, grant)).map(({ id }) => id);
    const among = new Set(asked.keys());
    const copies = await readScoredCopies(tx, thing.id, marked, person.id, among);
    const scored = copies.flatMap((one) => {
      const own = asked.get(one.copy.id);
      if (!own) return [];
      if (one.otherwise) {
        result.otherwise += 1;
        return [];
      }
      const { checked, points, given, now } = scoredAnew(one, part, own.given);
      if (points !== own.was) {
        result.meanwhile += 1;
        return [];
      }
      classes.add(one.copy.class);
      result.before.push({ copy: one.copy.id, given, now });
      return [{ page: one.page, checked }];
    });
    await addChecked(tx, person.id, scored);
  });
  publishToClasses(app, [...classes]);
  return result;
}

async function refuseRubric(db: Connection, id: string) {
  const { rubric_id } = await db
    .selectFrom('assignment')
    .select('rubric_id')
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  if (rubric_id) throw new Refusal(409, 'This assignment is scored by its rubric.');
}

/** A copy with other points for a part, and what the part had. */
function scoredAnew(one: ScoredCopy, part: string, given: GivenPart | null) {
  const was = one.checked ?? checkParts(one.parts, one.keys);
  const before = was?.parts.find(({ id }) => id === part);
  if (!was || !before)
    throw new Refusal(409, 'This part counts no points. Say first what it counts for.');
  const { [part]: had = null, ...others } = givenIn(one.checked);
  const parts = given ? { ...others, [part]: given } : others;
  const fault = givenFault({ parts: was.parts.filter(({ id }) => id === part) }, parts);
  if (fault) throw new Refusal(422, fault);
  const checked = checkParts(one.parts, one.keys, parts);
  if (!checked) throw new Refusal(409, 'This page has no answer keys any more. Please look again.');
  const after = checked.parts.find(({ id }) => id === part);
  return {
    checked,
    points: pointsOfPart(before),
    given: had,
    now: after ? pointsOfPart(after) : null,
  };
}
