import { setImmediate } from 'node:timers/promises';
import { sql } from 'kysely';
import { LRUCache } from 'lru-cache';
import type { CopyRow } from '$core/copy/copy-row';
import { isBlank, workedElsewhere, wrongAssignment } from '$core/headcount/causes';
import { carriedBy, marksOf, type Marks } from '$core/headcount/elsewhere';
import type { Elsewhere, Gap } from '$core/headcount/gap';
import { grouped } from '$core/lists/grouped';
import { countWords, partsOf, textOf } from '$core/page/parts';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import type { Connection, PageOrigin } from '../page/page-store';
import { readNewest, readPage } from '../page/page-store';

interface Told {
  version: number;
  marks: Marks;
  words: number;
}
/** What was told of pages from their text: true of that version for ever. */
const known = new LRUCache<string, Told>({ max: 5000 });

/** The version of its source that a page began as, or stands for. To be selected with the table `page`. */
const STANDS_FOR = sql<
  number | null
>`coalesce(page.source_version, (select original.version from assignment_original original
  where original.assignment_id = page.assignment_id and original.page_id = page.source_id))`;

/** A page that a student wrote on. */
interface Written extends PageOrigin {
  title: string;
  student: string;
  assignment: string | null;
  written: Date;
  handedIn: Date | null;
  done: boolean;
}

/** What students of a class wrote on that nobody scored or moved: own pages, and copies that are theirs alone. */
async function readWritten(db: Connection, klass: string, students: readonly string[]) {
  const { rows } = await sql<Written>`
    select page.id, page.version, page.source_id, page.source_version, page.title, page.student_id as student,
      page.assignment_id as assignment,
      coalesce(page.written_at, (select max(ended_at) from sitting where sitting.page_id = page.id), page.made_at) as written,
      case when page.with_teacher then (select max(at) from event
        where event.page_id = page.id and event.kind = 'handed in') end as "handedIn",
      coalesce(page.done_mask like '%1%', false) as done
    from page where page.class_id = ${klass} and page.student_id = any(${students}::uuid[])
      and (page.kind = 'own page' or page.kind = 'copy' and page.source_version is not null) and page.version > 0
      and page.away_at is null and page.replaced_at is null
      and not exists (select from score where score.page_id = page.id)`.execute(db);
  return rows;
}

async function readTold(db: Connection, pages: readonly PageOrigin[]): Promise<Map<string, Told>> {
  const changed = pages.filter(({ id, version }) => known.get(id)?.version !== version);
  const docs = changed.length === 0 ? new Map() : await readNewest(db, changed);
  for (const { id, version } of changed) {
    const doc = docs.get(id);
    if (!doc) continue;
    known.set(id, { version, marks: marksOf(doc), words: countWords(textOf(doc)) });
    // One page at a time: others are answered between.
    await setImmediate();
  }
  return new Map(
    pages.flatMap(({ id }) => {
      const one = known.get(id);
      return one ? [[id, one] as const] : [];
    }),
  );
}

/** The fingerprints of what copies begin as; null of a page that begins as no other. */
function originalsOf(db: Connection) {
  const found = new Map<string, Original>();
  return async (page: PageOrigin): Promise<Original | null> => {
    const { source_id, source_version } = page;
    if (source_id === null || source_version === null) return null;
    const key = `${source_id} ${source_version}`;
    const before = found.get(key);
    if (before) return before;
    const { doc } = await readPage(db, page, 0);
    const told = { marks: marksOf(doc), asks: partsOf(doc).length > 0 };
    found.set(key, told);
    return told;
  };
}
interface Original {
  marks: Marks;
  /** Whether it asks for anything. */
  asks: boolean;
}

type ToSee = Grant<'see the class'> | Grant<'manage the class'> | Grant<'close the term'>;

/**
 * Copies of a class in which nothing is, and whose student wrote it on another page: one that carries the text of what the copy
 * began as, and of none of their other copies more. All pages that they wrote on are read, once for each version.
 */
export async function findElsewhere(
  db: Connection,
  { thing, person }: ToSee,
  copies?: readonly CopyRow[],
): Promise<Gap[]> {
  const all = copies ?? (await readCopies(db, { class: thing.id }, person.id));
  const blank = all.filter(isBlank);
  const students = [...new Set(blank.flatMap(({ student }) => student ?? []))];
  if (blank.length === 0) return [];
  const pages = await readWritten(db, thing.id, students);
  if (pages.length === 0) return [];
  const told = await readTold(db, pages);
  const copiesOf = grouped(all, ({ student }) => student);
  const origins = await readOriginsOf(db, all);
  const originalOf = originalsOf(db);
  const found = new Map<string, Elsewhere[]>();
  for (const page of pages) {
    const is = told.get(page.id);
    const from = await originalOf(page);
    if (!is) continue;
    const originals = [];
    for (const copy of copiesOf.get(page.student) ?? []) {
      const origin = origins.get(copy.id);
      const original = origin && page.id !== copy.id ? await originalOf(origin) : null;
      if (original) originals.push({ ...original, copy: copy.id });
    }
    const carried = carriedBy(is.marks, originals, from?.marks ?? null);
    if (!carried) continue;
    const elsewhere: Elsewhere = {
      page: page.id,
      title: page.title,
      assignment: page.assignment,
      words: is.words,
      version: is.version,
      written: page.written.getTime(),
      handedIn: page.handedIn?.getTime() ?? null,
      hasOwnWork: page.assignment !== null && page.done && (from?.asks ?? false),
    };
    found.set(carried.copy, [...(found.get(carried.copy) ?? []), elsewhere]);
  }
  return blank.flatMap((copy) => {
    const theirs = found.get(copy.id) ?? [];
    return wrongAssignment(copy, theirs) ?? workedElsewhere(copy, theirs) ?? [];
  });
}

/** What copies begin as; of one that was moved to where it stands, what it stands for. */
async function readOriginsOf(db: Connection, copies: readonly CopyRow[]) {
  const rows = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', STANDS_FOR.as('source_version')])
    .where('id', '=', sql<string>`any(${copies.map(({ id }) => id)}::uuid[])`)
    .execute();
  return new Map(rows.map((row) => [row.id, row]));
}
