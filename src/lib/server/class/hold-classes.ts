import { sql } from 'kysely';
import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';

/** Keeps classes as they are until the transaction ends: nobody archives one meanwhile. @throws Refusal when one is archived */
export async function holdClasses(tx: Tx, classes: readonly string[]): Promise<void> {
  const rows = await tx
    .selectFrom('class')
    .select(['name', 'archived_at'])
    .where('id', '=', sql<string>`any(${classes}::uuid[])`)
    .orderBy('id')
    .forShare()
    .execute();
  const archived = rows.find(({ archived_at }) => archived_at !== null);
  if (archived)
    throw new Refusal(403, `${archived.name} is archived, so nothing in it changes any more.`);
}
