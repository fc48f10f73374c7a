import { sql } from 'kysely';
import { expect } from 'vitest';
import type { App } from '../../src/lib/server/app';

/** Waits until all background work that is due is done: nothing that was begun before tells anybody anything later. */
export const atRest = (app: App): Promise<void> =>
  expect
    .poll(
      async () => {
        const { rows } = await sql<{ n: number }>`select count(*)::int as n from pgboss.job
          where state in ('created', 'retry', 'active') and start_after <= now()`.execute(app.db);
        return rows[0]?.n;
      },
      { timeout: 30_000 },
    )
    .toBe(0);
