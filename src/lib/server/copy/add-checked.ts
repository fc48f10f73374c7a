import type { Checked } from '$core/marking/check-copy';
import type { Tx } from '../db/transaction';
import { keptCheck } from './mark-by-key';

/** So many rows are inserted with one statement: each has seven parameters, of which a statement takes 65,535. */
const ROWS = 5000;

/** Adds to the records of copies, which are locked, what their parts come to. */
export async function addChecked(
  tx: Tx,
  person: string,
  scored: readonly { page: { id: string; version: number; school_id: number }; checked: Checked }[],
): Promise<void> {
  for (let from = 0; from < scored.length; from += ROWS)
    await tx
      .insertInto('score')
      .values(
        scored.slice(from, from + ROWS).map(({ page: { id, version, school_id }, checked }) => ({
          school_id,
          page_id: id,
          person_id: person,
          version,
          ...keptCheck(checked),
        })),
      )
      .execute();
}
