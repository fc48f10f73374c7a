import { Kysely, PostgresDialect, sql } from 'kysely';
import pg from 'pg';
import { log } from '../log';
import type { Tables } from './schema';
import { refuseInTransaction } from './transaction';

// Dates stay texts ("2026-10-26") and times too: they belong to the school's calendar, not to an instant.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);
pg.types.setTypeParser(pg.types.builtins.TIME, (text) => text.slice(0, 5));

export type Database = Kysely<Tables>;

/** A connection carries out one query after the other. The driver only warns of two at once, and will refuse them. */
function refuseTwoAtOnce(client: pg.PoolClient): void {
  const query = client.query.bind(client) as (...asked: unknown[]) => Promise<unknown>;
  let running = false;
  const one = async (...asked: unknown[]) => {
    if (running) throw new Error('two queries at once on one connection');
    running = true;
    try {
      return await query(...asked);
    } finally {
      running = false;
    }
  };
  Object.assign(client, { query: one });
}

/** @param connections at most, of this process */
export function connect(url: string, connections = 10): Database {
  // Compiling a statement takes PostgreSQL longer than any of ours runs.
  const pool = new pg.Pool({ connectionString: url, max: connections, options: '-c jit=off' });
  pool.on('connect', refuseTwoAtOnce);
  pool.on('error', (error) => log.warn({ err: error }, 'a database connection was lost'));
  const guarded = {
    connect: async () => {
      refuseInTransaction();
      return pool.connect();
    },
    end: () => pool.end(),
  };
  return new Kysely<Tables>({ dialect: new PostgresDialect({ pool: guarded }) });
}

/** Whether the database answers. */
export const answers = (db: Database): Promise<boolean> =>
  sql`select 1`.execute(db).then(
    () => true,
    () => false,
  );
