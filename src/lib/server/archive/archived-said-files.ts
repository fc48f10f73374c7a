import { sql } from 'kysely';
import { readBytes } from '../attached/file-bytes';
import { COMMENT_SENT } from '../copy/sent';
import type { Tx } from '../db/transaction';
import { cutEnding, placedIn, type FilePaths } from './archived-attached';
import type { BagWriter } from './bag-writer';
import type { FilePlaces } from './file-places';
import type { Archived } from './numbers';

/** Of a student’s archive: what they were sent. */
const within = (student: string | null) => (student === null ? sql`true` : COMMENT_SENT);

/** Writes the pictures and recordings of comments beside their pages. @param paths gets where each lies, by its id */
export async function writeSaidFiles(
  tx: Tx,
  { student }: Archived,
  { bag, places, paths }: { bag: BagWriter; places: FilePlaces; paths: FilePaths },
  folders: ReadonlyMap<string, string>,
): Promise<void> {
  const { rows } = await sql<{ id: string; page: string; name: string; size: string }>`
    select upload.id, thread.page_id as page, upload.name, upload.size from archived_thread numbered
    join thread on thread.id = numbered.id join comment on comment.thread_id = thread.id
    join upload on upload.id = comment.upload_id
    where thread.page_id = any(${[...folders.keys()]}::uuid[]) and ${within(student)}
    order by numbered.n, comment.id`.execute(tx);
  for (const { id, page, name, size } of rows) {
    const path = places.give(folders.get(page) ?? '', ...cutEnding(name));
    paths.set(id, path);
    await bag.add(path, readBytes(tx, id, { from: 0, to: Number(size) }));
  }
}

/** The lines of `said-files.ndjson` about pages with the numbers from `first` to `last`. */
export async function saidFileLines(
  tx: Tx,
  { student }: Archived,
  [first, last]: readonly [number, number],
  paths: FilePaths,
): Promise<string> {
  const { rows } = await sql<{ line: string }>`
    with ${placedIn(paths)}
    select json_build_object('thread', said.n, 'comment', said.place - 1, 'page', said.page, 'by', said.by, 'at', said.at,
      'file', json_build_object('path', placed.path, 'name', upload.name))::text as line
    from (select numbered.n, page.n as page, person.n as by, comment.at, comment.upload_id,
        row_number() over (partition by thread.id order by comment.id) as place
      from archived_page page join thread on thread.page_id = page.id
      join archived_thread numbered on numbered.id = thread.id join comment on comment.thread_id = thread.id
      join archived_person person on person.id = comment.person_id
      where page.n between ${first} and ${last} and ${within(student)}) said
    join placed on placed.of = said.upload_id join upload on upload.id = said.upload_id
    order by said.n, said.place`.execute(tx);
  return rows.map(({ line }) => `${line}\n`).join('');
}
