import { randomUUID } from 'node:crypto';
import pg from 'pg';

/** Runs statements that no transaction may hold, such as `create database`. */
export async function administer(server: string, ...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  for (const statement of statements) await client.query(statement);
  await client.end();
}

/** A database of one's own. @returns its URL */
export async function freshDatabase(server: string, template: string): Promise<string> {
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  await administer(server, `create database ${name} template ${template}`);
  return server.replace(/[^/]+$/, name);
}

/** What is under way in a database, and for how long. */
export async function queriesIn(url: string): Promise<string[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<{ says: string }>(`
    select concat_ws(' ', now() - state_change, state, wait_event_type, wait_event, left(query, 200)) as says
    from pg_stat_activity where datname = current_database() and state <> 'idle' and pid <> pg_backend_pid()`);
  await client.end();
  return rows.map(({ says }) => says);
}
