import type { Tx } from '../db/transaction';
import type { Run } from './collecting-move';

export const GONE = 'There is no such file here.';
export const SETTLED = 'This file is collected, or put aside, already.';

/** Rows of the assignment's files. @throws Refusal when there is no such file */
export const theirFiles = ({ thing }: Run, tx: Tx, ids: readonly string[]) =>
  tx
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .selectAll('collected')
    .select(['upload.name', 'upload.size'])
    .where('collected.id', 'in', ids)
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .orderBy('collected.at')
    .orderBy('collected.from_id', (order) => order.asc().nullsFirst())
    .orderBy('collected.place')
    .orderBy('collected.id')
    .forUpdate('collected')
    .execute();
