import { sql } from 'kysely';
import { z } from 'zod';
import { ChangeFact } from '$core/handout/change-facts';
import { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { changeAssignment } from './change-assignment';
import { bringCorrection } from './corrections';
import { CheckedSpec } from './rights';

/** What stood before a change: a spec, or the version of a page whose text the copies had. */
const Before = z.union([
  z.object({
    spec: HandOutSpec,
    due: z.record(z.string(), z.number().nullable()).default({}),
    groups: z
      .record(z.string(), z.array(z.object({ name: z.string(), members: z.array(z.string()) })))
      .default({}),
  }),
  z.object({ page: z.uuid(), version: z.number().int() }),
]);

/** The changes of an assignment, newest first; one that was undone says so, and its undoing is not another. */
export async function readAssignmentChanges(db: Connection, assignment: string) {
  const rows = await db
    .selectFrom('assignment_change')
    .innerJoin('person', 'person.id', 'assignment_change.made_by')
    .select(['assignment_change.id', 'made_at', 'facts', 'undone_at', 'given', 'called'])
    .where('assignment_id', '=', assignment)
    .where('undoes', 'is', null)
    .orderBy('made_at', 'desc')
    .limit(50)
    .execute();
  return rows.map((row) => ({
    id: row.id,
    at: row.made_at.getTime(),
    by: row.called || row.given,
    facts: z.array(ChangeFact).parse(row.facts),
    undone: row.undone_at !== null,
  }));
}

/** The newest change of an assignment, undoings among them; null when it was never changed. */
export async function readNewestChange(db: Connection, assignment: string): Promise<string | null> {
  const row = await db
    .selectFrom('assignment_change')
    .select('id')
    .where('assignment_id', '=', assignment)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row?.id ?? null;
}

/**
 * Undoes the newest change that stands. Undoing is a change like any other, back to what was: nothing written is lost.
 * @returns the correction that a job carries out, where that is what undoes it
 */
export async function undoChange(
  app: Using<'db' | 'jobs' | 'memory' | 'news' | 'pages'>,
  grant: Grant<'change the assignment'>,
  { change, at }: { change: string; at: Date },
): Promise<string | null> {
  const assignment = grant.thing.id;
  const seen = await readNewestChange(app.db, assignment);
  const newest = await app.db
    .selectFrom('assignment_change')
    .select(['id', 'was', 'made_at'])
    .where('assignment_id', '=', assignment)
    .where('undone_at', 'is', null)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (newest?.id !== change)
    throw new Refusal(409, 'A later change stands on this one. Undo that first.');
  const before = Before.parse(newest.was);
  let correction: string | null = null;
  if ('spec' in before)
    await changeAssignment(app, grant, {
      begin: 'original',
      at,
      undoes: newest.made_at,
      seen,
      due: before.due,
      groups: before.groups,
      spec: CheckedSpec.stoodBefore(grant, before.spec),
    });
  else
    correction = (await bringCorrection(app, grant, { page: before.page, to: before.version, at }))
      .change;
  // Neither the change nor its undoing is to be undone again.
  await app.db
    .updateTable('assignment_change')
    .set({ undone_at: new Date(), undoes: sql<string | null>`nullif(${change}::uuid, id)` })
    .where('assignment_id', '=', assignment)
    .where('undone_at', 'is', null)
    .where((eb) => eb.or([eb('id', '=', change), eb('made_at', '>=', at)]))
    .execute();
  return correction;
}
