import type { Grant } from '../access/grant';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';

/** Whether comments and proposals on the copies of an assignment wait, in a class, until their copy goes back. */
export async function readFeedbackWaits(
  db: Connection,
  assignment: string,
  klass: string,
): Promise<boolean> {
  const row = await db
    .selectFrom('assignment_class')
    .select('feedback_waits')
    .where('assignment_id', '=', assignment)
    .where('class_id', '=', klass)
    .executeTakeFirst();
  return row?.feedback_waits ?? false;
}

/** Says it for what is written from now on. */
export async function setFeedbackWaits(
  app: Using<'db'>,
  { thing }: Grant<'run the assignment'>,
  klass: string,
  waits: boolean,
): Promise<void> {
  await app.db
    .updateTable('assignment_class')
    .set({ feedback_waits: waits })
    .where('assignment_id', '=', thing.id)
    .where('class_id', '=', klass)
    .execute();
}
