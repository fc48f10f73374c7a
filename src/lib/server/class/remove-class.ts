import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/** What a class holds that goes with it: no student was ever in it, and nothing was handed out. */
const OWN = [
  'class_staff',
  'lesson_slot',
  'grouping',
  'hand_out',
  'office_map',
  'roster_change',
  'unit',
  'class_build',
] as const;

/**
 * Removes a class in which nothing has happened yet: nobody was ever in it, and it holds no page and no assignment. What has
 * more is ended, and kept.
 * @throws Refusal when there is more in it
 */
export const removeClass = (
  app: Using<'db'>,
  { thing: klass }: Grant<'close the term'>,
): Promise<void> =>
  inTransaction(app.db, async (tx) => {
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forUpdate().execute();
    const { rows } = await sql<{ what: string }>`
      select 'students' as what from enrolment where class_id = ${klass.id}
      union select 'assignments' from assignment_class where class_id = ${klass.id}
      union select 'pages' from page where class_id = ${klass.id}`.execute(tx);
    if (rows.length > 0)
      throw new Refusal(
        409,
        `${klass.name} has ${rows.map(({ what }) => what).join(' and ')}, so it is not removed. End it with “Close the term”: then nothing is lost.`,
      );
    await tx
      .deleteFrom('note')
      .where('unit_id', 'in', tx.selectFrom('unit').select('id').where('class_id', '=', klass.id))
      .execute();
    for (const table of OWN) await tx.deleteFrom(table).where('class_id', '=', klass.id).execute();
    await tx.deleteFrom('class').where('id', '=', klass.id).execute();
  });
