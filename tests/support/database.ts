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
