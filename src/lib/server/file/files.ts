import { TO_CLASSMATES } from '$core/copy/folio';
import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import type { PageReader } from '../access/relation';
import type { SignedIn } from '../access/session';
import { may } from '../access/table';
import { isDealtTo } from '../copy/holders';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';
import { namePicture } from './picture-name';

interface Reader {
  db: Database;
  findPage: PageReader;
}

/**
 * Keeps a picture under the SHA-256 of its bytes; the same picture twice is one.
 * @returns the name
 * @throws Refusal when a page cannot show it
 */
export async function savePicture(
  db: Database,
  bytes: Buffer,
  { id, school_id }: Pick<SignedIn, 'id' | 'school_id'>,
): Promise<string> {
  const { name, type } = await namePicture(bytes);
  await db
    .insertInto('file')
    .values({ hash: name, school_id, type, bytes, made_by: id })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  await db
    .insertInto('picture_sender')
    .values({ hash: name, person_id: id, school_id })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  return name;
}

/** A picture that somebody sent or may see on a page; undefined for all others, whoever knows its name. */
export async function openPicture(app: Reader, { person }: Grant<'be signed in'>, hash: string) {
  if (!(await maySee(app, person, hash))) return undefined;
  return app.db
    .selectFrom('file')
    .select(['type', 'bytes'])
    .where('hash', '=', hash)
    .where('school_id', '=', person.school_id)
    .executeTakeFirst();
}

/** Pictures of other pages that one request may bring. */
const MOST_FOREIGN = 100;
/** Pages that are looked at for one that somebody may read. */
const MOST_PAGES = 100;

const SHOW_A_PAGE = ['read the page', 'score a classmate'] as const;

async function maySee({ db, findPage }: Reader, person: SignedIn, hash: string): Promise<boolean> {
  const sent = await db
    .selectFrom('picture_sender')
    .select('hash')
    .where('hash', '=', hash)
    .where('person_id', '=', person.id)
    .executeTakeFirst();
  if (sent) return true;
  // What a copy shows stands on the page that it began as, until somebody writes it in the copy itself.
  const { rows } = await sql<{ id: string }>`
    with recursive shows(id) as (
      select page_id from picture_place where hash = ${hash}
      union select page.id from page join shows on page.source_id = shows.id)
    select page.id from shows join page on page.id = shows.id
    where page.student_id = ${person.id}
      or exists (select from page_member where page_id = page.id and person_id = ${person.id})
      or exists (select from class_staff where class_id = page.class_id and person_id = ${person.id})
      or exists (select from course_staff where course_id = page.course_id and person_id = ${person.id})
      or ((page.kind = 'class page' or page.folio = any(${TO_CLASSMATES}::text[])) and exists (
        select from enrolment where class_id = page.class_id and person_id = ${person.id}))
      or ${isDealtTo(sql.val(person.id))}
    limit ${MOST_PAGES}`.execute(db);
  for (const { id } of rows) {
    const found = await findPage(person.id, id);
    if (found && SHOW_A_PAGE.some((line) => may(line, found.relation))) return true;
  }
  return false;
}

/** The names of the pictures in steps or in a page, as their JSON has them. */
export function picturesIn(json: unknown): string[] {
  const text = JSON.stringify(json);
  if (!text.includes('"file"')) return [];
  // As an attribute of a node, or in a step that sets it.
  const named = text.matchAll(/"file":"([0-9a-f]{64})"|"attr":"file","value":"([0-9a-f]{64})"/g);
  return [...new Set([...named].map(([, node, set]) => node ?? set ?? ''))];
}

/**
 * Notes that pictures stand on a page, so that who reads it sees them; only such as the person who put them there may
 * see: naming a picture is not having it.
 */
export async function placePictures(
  app: Reader,
  person: SignedIn,
  page: string,
  hashes: readonly string[],
): Promise<void> {
  if (hashes.length === 0) return;
  const { school_id } = person;
  await sql`insert into picture_place (hash, page_id, school_id)
    select hash, ${page}, ${school_id} from picture_sender
    where person_id = ${person.id} and hash = any(${hashes}::text[]) on conflict do nothing`.execute(
    app.db,
  );
  const placed = await app.db
    .selectFrom('picture_place')
    .select('hash')
    .where('page_id', '=', page)
    .where('hash', 'in', hashes)
    .execute();
  const others = hashes.filter((hash) => !placed.some((one) => one.hash === hash));
  for (const hash of others.slice(0, MOST_FOREIGN))
    if (await maySee(app, person, hash))
      await app.db
        .insertInto('picture_place')
        .values({ hash, page_id: page, school_id })
        .onConflict((conflict) => conflict.doNothing())
        .execute();
}

/** A page that begins as another shows the pictures of that page, and of the pages that it began as. */
export async function sharePictures(
  db: Connection,
  pairs: readonly { id: string; from: string }[],
): Promise<void> {
  await sql`
    with recursive origin(id, page_id) as (
      select id, "from" from jsonb_to_recordset(${JSON.stringify(pairs)}::jsonb) as r(id uuid, "from" uuid)
      union select origin.id, page.source_id from origin join page on page.id = origin.page_id
      where page.source_id is not null)
    insert into picture_place (hash, page_id, school_id)
    select distinct place.hash, origin.id, place.school_id
    from origin join picture_place place on place.page_id = origin.page_id on conflict do nothing`.execute(
    db,
  );
}
