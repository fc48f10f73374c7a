import { AsyncLocalStorage } from 'node:async_hooks';
import { sql, type Kysely, type Transaction } from 'kysely';
import type { Tables } from './schema';

export type Tx = Transaction<Tables>;

/** Whether the code that runs now stands inside a transaction that has not ended. */
const inside = new AsyncLocalStorage<{ open: boolean }>();

/**
 * The one way to begin a transaction. What runs in it uses `tx` alone: a transaction that waits for a second connection
 * while others do the same would wait for ever, so the pool refuses it (`refuseInTransaction`).
 */
export const inTransaction = <T>(db: Kysely<Tables>, work: (tx: Tx) => Promise<T>): Promise<T> =>
  db.transaction().execute((tx) => {
    const scope = { open: true };
    return inside.run(scope, () =>
      work(tx).finally(() => {
        scope.open = false;
      }),
    );
  });

/**
 * A long transaction on a connection of its own: what runs in it may use other connections beside. Its clock is UTC.
 * @param own has no other use
 * @param sees the database as it stood when it began, or what others did meanwhile
 */
export const onOwnConnection = <T>(
  own: Kysely<Tables>,
  sees: 'one moment' | 'what is new',
  run: (tx: Tx) => Promise<T>,
): Promise<T> =>
  own
    .transaction()
    .setIsolationLevel(sees === 'one moment' ? 'repeatable read' : 'read committed')
    .execute(async (tx) => {
      await sql`set local time zone 'UTC'`.execute(tx);
      return run(tx);
    });

/** @throws Error when the code that asks for a connection holds one already */
export function refuseInTransaction(): void {
  if (inside.getStore()?.open)
    throw new Error('a second connection was asked for inside a transaction');
}
