import { sql } from 'kysely';
import { PAUSE } from '$core/history/sittings';
import type { OwnSitting } from '$core/history/own-sitting';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readPage, readSteps } from '../page/page-store';
import { seenFrom } from '../page/seen-from';

/** Of a longer sitting, or of one that lies further back, undo reaches no further. */
const MOST_STEPS = 3000;

/**
 * The last sitting of a person on a page, as far as they did it before version `before`; null when there is none, or
 * too much was written since.
 */
export async function readOwnSitting(
  app: Using<'db'>,
  grant: Grant<'write the page'>,
  before: number,
): Promise<OwnSitting | null> {
  const { db } = app;
  const { thing, person } = grant;
  const page = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version'])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const reach = Math.max(seenFrom(grant), page.version - MOST_STEPS);
  const { rows: own } = await sql<{ version: number; at: Date }>`
    select version, at from logged_steps(${page.id}, ${reach}, ${before})
    where author_id = ${person.id} order by version desc`.execute(db);
  const pause = own.findIndex(({ at }, index) => {
    const later = own[index - 1];
    return later !== undefined && later.at.getTime() - at.getTime() > PAUSE;
  });
  const first = (pause < 0 ? own : own.slice(0, pause)).at(-1);
  if (!first) return null;
  const begun = first.version - 1;
  const [held, rows] = await Promise.all([
    readPage(db, page, begun),
    readSteps(db, page.id, begun, page.version),
  ]);
  return {
    version: begun,
    doc: held.doc.toJSON() as object,
    steps: rows.map(({ body, at, author_id, version }) => ({
      body,
      at: at.getTime(),
      own: author_id === person.id && version <= before,
    })),
  };
}
