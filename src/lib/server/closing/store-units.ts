import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Using } from '../services';

/**
 * Puts units of a class into the cupboard, out of its students' sight with all that lies in them, or takes them out again.
 * Points that were handed back go on counting.
 */
export async function storeUnits(
  app: Using<'db' | 'jobs' | 'news'>,
  { thing: klass }: Grant<'manage the class'>,
  units: readonly string[],
  stored: boolean,
): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    const moved = await tx
      .updateTable('unit')
      .set({ stored_at: stored ? new Date() : null })
      .where('class_id', '=', klass.id)
      .where('id', '=', sql<string>`any(${units}::uuid[])`)
      .where('stored_at', stored ? 'is' : 'is not', null)
      .returning('id')
      .execute();
    if (stored || moved.length === 0) return;
    // What was handed out while it lay there is told of now.
    const handed = await tx
      .selectFrom('assignment_class')
      .select('assignment_id')
      .where('class_id', '=', klass.id)
      .where(
        'unit_id',
        'in',
        moved.map(({ id }) => id),
      )
      .execute();
    for (const { assignment_id } of handed)
      await app.jobs.put(tx, klass.school_id, 'notify handed out', { assignment: assignment_id });
  });
  publishToClasses(app, [klass.id]);
}
