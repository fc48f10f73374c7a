import type { KyselyPlugin } from 'kysely';
import type { Database } from '../../src/lib/server/db/connect';

/** How many statements some work sends. */
export async function countStatements(
  db: Database,
  work: (db: Database) => Promise<unknown>,
): Promise<number> {
  let statements = 0;
  const counter: KyselyPlugin = {
    transformQuery: ({ node }) => {
      statements++;
      return node;
    },
    transformResult: async ({ result }) => result,
  };
  await work(db.withPlugin(counter));
  return statements;
}
