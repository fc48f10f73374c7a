import { sql } from 'kysely';
import type { Connection } from '../page/page-store';

/** What people are called, by id: students by their names, staff as they are addressed. */
export async function readNames(
  db: Connection,
  ids: readonly string[],
): Promise<Record<string, string>> {
  if (ids.length === 0) return {};
  const people = await db
    .selectFrom('person')
    .select(['id', 'given', 'family', 'called'])
    .where('id', '=', sql<string>`any(${[...new Set(ids)]}::uuid[])`)
    .execute();
  return Object.fromEntries(
    people.map(({ id, given, family, called }) => [id, called || `${given} ${family}`]),
  );
}
