import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { handInWhatIsDone } from '../copy/all-done';
import type { Given } from '../handout/joiners';
import { publishToClasses } from '../live/listeners';

type Run = Grant<'run the assignment'>;

/**
 * Removes copies from their students, and students from pages they share: what mending gave, or a single copy.
 * Nothing that was written is lost, and it can be brought back.
 */
export async function removeCopies(
  app: Using<'db' | 'news'>,
  { thing }: Run,
  { copies, places }: Given,
  at: Date,
): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    const of = tx
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', thing.id)
      .where('class_id', '=', thing.class.id)
      .where('kind', '=', 'copy');
    await tx
      .updateTable('page')
      .set({ away_at: at })
      .where('id', 'in', of.where('id', '=', sql<string>`any(${copies}::uuid[])`))
      .where('away_at', 'is', null)
      .execute();
    for (const { copy, student } of places)
      await tx
        .deleteFrom('page_member')
        .where('page_id', 'in', of.where('id', '=', copy))
        .where('person_id', '=', student)
        .execute();
    await handInWhatIsDone(tx, { assignment: thing.id });
  });
  publishToClasses(app, [thing.class.id]);
}
