import { sql } from 'kysely';
import type { Attached } from '$core/attached/attached';
import { hasCome, type Moment } from '../db/as-of';
import type { Connection } from '../page/page-store';

/** What is attached, as `Attached`: of rows of `attachment` with its `upload` and `kept`. */
export const ATTACHED = sql`json_agg(json_build_object('id', attachment.id,
  'kind', case when attachment.upload_id is null then 'link' else 'file' end, 'name', coalesce(upload.name, attachment.url),
  'type', upload.type, 'size', coalesce(upload.size, 0), 'at', floor(extract(epoch from attachment.at) * 1000)::float8,
  'found', attachment.found, 'isPage', attachment.shown is not null, 'kept', kept.kept)
  order by attachment.at, attachment.id)`;
/** What stood behind a link when it was handed in last. */
export const keptOf = (at: Moment) => sql`left join lateral (
  select json_build_object('at', floor(extract(epoch from snapshot.at) * 1000)::float8, 'type', file.type,
    'isPage', snapshot.shown is not null) as kept
  from link_snapshot snapshot join upload file on file.id = snapshot.upload_id
  where snapshot.attachment_id = attachment.id and ${hasCome('snapshot.at', at)}
  order by snapshot.at desc limit 1) kept on attachment.url is not null`;

/**
 * What was handed in with a page, and was removed since: it stays a version of what is attached. What a teacher collected and took
 * off again does not: it may be another student’s.
 */
export async function readEarlierAttached(db: Connection, page: string): Promise<Attached[]> {
  const { rows } = await sql<{ attached: Attached[] | null }>`
    select ${ATTACHED} as attached from attachment
    left join upload on upload.id = attachment.upload_id ${keptOf(null)}
    where attachment.page_id = ${page} and attachment.away_at is not null and not attachment.undone
      and exists (select from event where event.page_id = attachment.page_id
        and event.kind in ('handed in', 'said done') and event.at between attachment.at and attachment.away_at)`.execute(
    db,
  );
  return rows[0]?.attached ?? [];
}
