import { sql } from 'kysely';
import { z } from 'zod';
import type { Example, ExampleShown } from '$core/marking/example';
import { PointsText } from '$core/marking/points-text';
import { stepAt } from '$core/marking/rubric-steps';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readNameless } from './nameless-page';
import { readRubricOf } from './scorings';

type Mark = Grant<'mark its copies'>;

export const NewExample = z.strictObject({
  copy: z.uuid(),
  criterion: z.string().max(40),
  points: PointsText,
});

/** @throws Refusal where there is none */
async function rubricOf(db: Connection, { thing }: Mark) {
  const rubric = await readRubricOf(db, thing.id);
  if (!rubric) throw new Refusal(409, 'This assignment is not scored by a rubric.');
  return rubric;
}

/** The examples of the rubric that an assignment is scored by, of whichever class; those of most points last. */
export async function readExamples(db: Connection, grant: Mark): Promise<Example[]> {
  const rubric = await rubricOf(db, grant);
  return db
    .selectFrom('example')
    .innerJoin('page', 'page.id', 'example.page_id')
    .select(['example.id', 'example.criterion', 'example.points'])
    .where('example.rubric_id', '=', rubric.id)
    .where('example.away_at', 'is', null)
    .where('page.away_at', 'is', null)
    .orderBy(sql`example.points::numeric`)
    .orderBy('example.made_at')
    .orderBy('example.id')
    .execute();
}

/**
 * Keeps a copy, as it stands now, as an example of a step of its rubric; it is one of each criterion at most.
 * @throws Refusal when it is none of these copies, or the rubric has no such step
 */
export async function keepExample(
  app: Using<'db'>,
  grant: Mark,
  { copy, criterion, points }: z.infer<typeof NewExample>,
): Promise<Example> {
  const { thing, person } = grant;
  return inTransaction(app.db, async (tx) => {
    const rubric = await rubricOf(tx, grant);
    const isStep =
      rubric.table.criteria.some(({ id }) => id === criterion) && stepAt(rubric.table, points);
    if (!isStep) throw new Refusal(409, 'The rubric was changed just now. Please look again.');
    const page = await tx
      .selectFrom('page')
      .select(['id', 'version', 'school_id'])
      .where('id', '=', copy)
      .where('kind', '=', 'copy')
      .where('assignment_id', '=', thing.id)
      .where('class_id', '=', thing.class.id)
      .where('away_at', 'is', null)
      .executeTakeFirst();
    if (!page) throw new Refusal(404, 'There is no such copy in this class.');
    const now = { points, version: page.version, made_by: person.id };
    const { id } = await tx
      .insertInto('example')
      .values({
        ...now,
        school_id: page.school_id,
        rubric_id: rubric.id,
        criterion,
        page_id: page.id,
      })
      .onConflict((there) =>
        there.columns(['rubric_id', 'criterion', 'page_id']).doUpdateSet({ ...now, away_at: null }),
      )
      .returning('id')
      .executeTakeFirstOrThrow();
    return { id, criterion, points };
  });
}

const GONE = 'There is no such example any more.';

/** Takes an example away, or brings it back. @throws Refusal when there is none */
export async function putExampleAway(
  app: Using<'db'>,
  grant: Mark,
  id: string,
  away: boolean,
): Promise<void> {
  const rubric = await rubricOf(app.db, grant);
  const { numUpdatedRows } = await app.db
    .updateTable('example')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', id)
    .where('rubric_id', '=', rubric.id)
    .executeTakeFirst();
  if (numUpdatedRows === 0n) throw new Refusal(404, GONE);
}

/** An example with its page, without the names of those whose it is. @throws Refusal when there is none */
export async function viewExample(
  app: Using<'db'>,
  grant: Mark,
  example: string,
): Promise<ExampleShown> {
  const rubric = await rubricOf(app.db, grant);
  const row = await app.db
    .selectFrom('example')
    .innerJoin('page', 'page.id', 'example.page_id')
    .select(['example.id', 'example.criterion', 'example.points', 'example.version'])
    .select(['page.id as page', 'page.source_id', 'page.source_version'])
    .where('example.id', '=', example)
    .where('example.rubric_id', '=', rubric.id)
    .where('example.away_at', 'is', null)
    .where('page.away_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, GONE);
  const { id, criterion, points, page, version, ...from } = row;
  const shown = await readNameless(app.db, { id: page, ...from }, version);
  return { id, criterion, points, doc: shown.toJSON() as object };
}
