import type { Tx } from '../db/transaction';
import { refuseSealed } from '../page/sealed';
import { SHARERS } from './holders';

/** The row of a page in whose margin or record something is added, locked. @throws Refusal when it takes nothing more */
export async function lockPage(tx: Tx, page: string) {
  const row = await tx
    .selectFrom('page')
    .select(['version', 'school_id', 'class_id', 'student_id', 'sealed'])
    .select(SHARERS.as('sharers'))
    .where('id', '=', page)
    .forUpdate()
    .executeTakeFirstOrThrow();
  refuseSealed(row);
  return row;
}
