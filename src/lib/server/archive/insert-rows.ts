import { sql } from 'kysely';
import type { Tx } from '../db/transaction';

/** Where an archive is opened, and by whom. */
export interface Opening {
  school: number;
  by: string;
}

/** Where what is inserted belongs. */
export interface Here {
  school: number;
  class: string;
  course: string;
}

/** Rows as one parameter of a statement. */
export const rows = (of: readonly object[]): string => JSON.stringify(of);

/** The id of what has a number, in SQL: null where the number is null, or nothing has it. */
export const idOf = (table: string, number: string) =>
  sql.raw(`(select id from archived_${table} numbered where numbered.n = ${number})`);

export async function insertNumbers(
  tx: Tx,
  name: string,
  pairs: readonly { n: number; id: string }[],
): Promise<void> {
  await sql`insert into ${sql.table(`archived_${name}`)} (n, id)
    select * from jsonb_to_recordset(${rows(pairs)}::jsonb) as r(n int, id uuid)`.execute(tx);
}

/** The new ids of things of one kind, by number. */
export async function readIds(tx: Tx, name: string): Promise<Map<number, string>> {
  const { rows: pairs } = await sql<{ n: number; id: string }>`
    select n, id from ${sql.table(`archived_${name}`)}`.execute(tx);
  return new Map(pairs.map(({ n, id }) => [n, id]));
}
