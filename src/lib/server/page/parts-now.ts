import { sql } from 'kysely';
import { partsOf, type Part } from '$core/page/parts';
import { readNewest, type Connection, type PageOrigin } from './page-store';

/**
 * The parts of many pages as they are now. What was handed in has them in the snapshot that was made of it; only what was
 * changed since is made again from its log.
 */
export async function readPartsNow(
  db: Connection,
  pages: readonly PageOrigin[],
): Promise<Map<string, readonly Part[]>> {
  const { rows } = await sql<{ id: string; parts: readonly Part[] }>`
    select known.id, snapshot.parts
    from unnest(${pages.map(({ id }) => id)}::uuid[], ${pages.map(({ version }) => version)}::int[]) as known(id, version)
    join snapshot on snapshot.page_id = known.id and snapshot.version = known.version`.execute(db);
  const found = new Map(rows.map(({ id, parts }) => [id, parts]));
  const others = pages.filter(({ id }) => !found.has(id));
  if (others.length > 0)
    for (const [id, doc] of await readNewest(db, others)) found.set(id, partsOf(doc));
  return found;
}
