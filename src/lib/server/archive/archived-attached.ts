import { sql } from 'kysely';
import type { AttachedFile } from '$core/archive/copy-html';
import { grouped } from '$core/lists/grouped';
import { readBytes } from '../attached/file-bytes';
import type { Tx } from '../db/transaction';
import type { BagWriter } from './bag-writer';
import type { FilePlaces } from './file-places';
import { rows as asRows } from './insert-rows';

/** A file that goes into an archive with a page: what was attached, or what stood behind a link. */
interface FileOf {
  /** What the archive has it of: something attached, or what was kept of a link. */
  of: string;
  page: string;
  upload: string;
  name: string;
  size: string;
  /** The link that it was kept of. */
  url: string | null;
  away: boolean;
}

/** Where the files of an archive lie below `data/`, by what they are of: a comment’s by the file’s own id. */
export type FilePaths = Map<string, string>;

/** All that is attached to pages of an archive, and what was kept of it, by page: in the order of their numbers. */
async function readFiles(tx: Tx, pages: readonly string[]): Promise<Map<string, FileOf[]>> {
  const { rows } = await sql<FileOf>`
    select coalesce(link_snapshot.id, attachment.id) as of, attachment.page_id as page, upload.id as upload, upload.name, upload.size, attachment.url,
      attachment.away_at is not null as away
    from archived_attachment numbered join attachment using (id)
    left join link_snapshot on link_snapshot.attachment_id = attachment.id
    join upload on upload.id = coalesce(attachment.upload_id, link_snapshot.upload_id)
    where attachment.page_id = any(${pages}::uuid[])
    order by numbered.n, link_snapshot.at, link_snapshot.id`.execute(tx);
  return grouped(rows, ({ page }) => page);
}

/** A file's name without its ending, and that. */
export function cutEnding(name: string): [string, string] {
  const ending = /\.[a-z0-9]{1,8}$/i.exec(name)?.[0] ?? '';
  return [name.slice(0, name.length - ending.length), ending];
}

/**
 * Writes what is attached to pages beside them.
 * @param paths gets where each file lies
 * @returns by page what it leads to
 */
export async function writeAttached(
  tx: Tx,
  { bag, places, paths }: { bag: BagWriter; places: FilePlaces; paths: FilePaths },
  folders: ReadonlyMap<string, string>,
): Promise<Map<string, AttachedFile[]>> {
  const files = await readFiles(tx, [...folders.keys()]);
  const shown = new Map<string, AttachedFile[]>();
  for (const [page, all] of files) {
    const folder = folders.get(page) ?? '';
    for (const { of, upload, name, size, url, away } of all) {
      const path = places.give(folder, ...cutEnding(name));
      paths.set(of, path);
      await bag.add(path, readBytes(tx, upload, { from: 0, to: Number(size) }));
      shown.set(page, [...(shown.get(page) ?? []), { path, name, url, away }]);
    }
  }
  return shown;
}

/** `placed`, as a query has it: where each file lies. */
export const placedIn = (paths: FilePaths) =>
  sql`placed as materialized (select * from jsonb_to_recordset(
    ${asRows([...paths].map(([of, path]) => ({ of, path })))}::jsonb) as r(of uuid, path text))`;

/** The lines of `attached.ndjson` about pages with the numbers from `first` to `last`. */
export async function attachedLines(
  tx: Tx,
  [first, last]: readonly [number, number],
  paths: FilePaths,
): Promise<string> {
  const { rows } = await sql<{ line: string }>`
    with ${placedIn(paths)}
    select json_build_object('n', numbered.n, 'page', page.n, 'by', person.n, 'at', attachment.at,
      'away', attachment.away_at, 'found', attachment.found, 'url', url,
      'file', (select json_build_object('path', path, 'name', name) from placed
        join upload on upload.id = attachment.upload_id where placed.of = attachment.id),
      'shown', attachment.shown,
      'kept', coalesce((select json_agg(json_build_object('path', path, 'name', name, 'at', kept.at, 'shown', kept.shown)
          order by kept.at, kept.id)
        from link_snapshot kept join placed on placed.of = kept.id join upload on upload.id = kept.upload_id
        where kept.attachment_id = attachment.id), '[]'))::text as line
    from archived_page page join attachment on attachment.page_id = page.id
    join archived_attachment numbered on numbered.id = attachment.id
    join archived_person person on person.id = attachment.made_by
    where page.n between ${first} and ${last} order by numbered.n`.execute(tx);
  return rows.map(({ line }) => `${line}\n`).join('');
}
