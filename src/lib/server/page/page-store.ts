import { LRUCache } from 'lru-cache';
import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { sql, type Transaction } from 'kysely';
import type { Authorship } from '$core/history/authorship';
import { applyStep, type Stretch } from '$core/history/moment';
import { PUTS_BACK } from '$core/history/put-back';
import type { LoggedJson } from '$core/history/work-line';
import { grouped } from '$core/lists/grouped';
import { schema } from '$core/page/schema';
import type { Database } from '../db/connect';
import type { Tables } from '../db/schema';
import { HeldPage } from './held-page';

export type Connection = Database | Transaction<Tables>;

/** The columns of a page that say where its history begins. */
export interface PageOrigin {
  id: string;
  version: number;
  source_id: string | null;
  source_version: number | null;
}

/** Of many pages. */
export const readOrigins = async (db: Connection, ids: readonly string[]): Promise<PageOrigin[]> =>
  ids.length === 0
    ? []
    : db
        .selectFrom('page')
        .select(['id', 'version', 'source_id', 'source_version'])
        .where('id', 'in', ids)
        .execute();

const asAuthorship = (value: object): Authorship => (Array.isArray(value) ? value : []);

/** A step as it was taken in. */
export interface LoggedRow {
  version: number;
  client: string;
  client_no: number;
  author_id: string;
  at: Date;
  body: object;
}

/** The logged steps after version `from` up to `to`, in order. */
export async function readSteps(
  db: Connection,
  page: string,
  from: number,
  to: number,
): Promise<LoggedRow[]> {
  const { rows } = await sql<LoggedRow>`select version, client, client_no, author_id, at, body
    from logged_steps(${page}, ${from}, ${to}) order by version`.execute(db);
  return rows;
}

function movedOn(held: HeldPage, rows: readonly LoggedRow[]): HeldPage {
  let moved = held;
  for (const row of rows) {
    const step = Step.fromJSON(schema, row.body);
    moved = moved.with(step, row.client, row.client_no, row.author_id, row.at.getTime());
  }
  return moved;
}

/** Moves a held page on by the logged steps up to the version of its row. */
export async function catchUp(db: Connection, page: PageOrigin, held: HeldPage): Promise<HeldPage> {
  const rows = await readSteps(db, page.id, held.version, page.version);
  // Who wrote what a step put back stands in the snapshot that was made with it.
  return rows.some(({ body }) => PUTS_BACK in body) ? readPage(db, page) : movedOn(held, rows);
}

/** The page as it was at a version: a snapshot and at most 200 steps, or, of an untouched copy, its original. */
export async function readPage(
  db: Connection,
  page: PageOrigin,
  version = page.version,
): Promise<HeldPage> {
  const { id, source_id, source_version } = page;
  const isUntouched = version === 0 && source_id !== null && source_version !== null;
  const snapshot = isUntouched ? null : await readSnapshot(db, id, version);
  const steps = isUntouched ? [] : await readSteps(db, id, snapshot?.version ?? 0, version);
  if (snapshot) return movedOn(snapshot, steps);
  if (source_id === null || source_version === null) throw new Error(`page ${id} has no beginning`);
  const original = await readOriginal(db, source_id, source_version);
  return movedOn(HeldPage.at(0, original, []), steps);
}

/**
 * The stretch of a page's history that a version lies in: from the snapshot before it, but not before version `first`,
 * to the next one.
 */
export async function readStretch(
  db: Connection,
  page: PageOrigin,
  version: number,
  first = 0,
): Promise<Stretch> {
  const snapshots = db.selectFrom('snapshot').where('page_id', '=', page.id);
  const [kept, next] = await Promise.all([
    snapshots
      .select(['version', 'doc', 'authorship'])
      .where('version', '<=', version)
      .orderBy('version', 'desc')
      .limit(1)
      .executeTakeFirst(),
    snapshots
      .select('version')
      .where('version', '>', version)
      .orderBy('version')
      .limit(1)
      .executeTakeFirst(),
  ]);
  const begins = await beginningOf(db, page, kept, first);
  const { version: from } = begins;
  // The step that made the next snapshot may be one that put the page back: who wrote it says that snapshot alone.
  const rows = await readSteps(db, page.id, from - 1, next ? next.version - 1 : page.version);
  // The step that made the kept page, and those after it.
  const steps = rows.map(loggedJson);
  const made = steps[0]?.version === from ? steps.shift() : undefined;
  return {
    ...begins,
    made: made ? { author: made.author, at: made.at } : null,
    steps,
  };
}

/** What a stretch begins with: the kept page, or the one at version `first` where that is later. */
async function beginningOf(
  db: Connection,
  page: PageOrigin,
  kept: { version: number; doc: object; authorship: object } | undefined,
  first: number,
): Promise<Pick<Stretch, 'version' | 'doc' | 'authorship'>> {
  if (kept && kept.version >= first) return { ...kept, authorship: asAuthorship(kept.authorship) };
  const held = await readPage(db, page, first);
  return { version: first, doc: held.doc.toJSON() as object, authorship: held.authorship() };
}

/** A row of the log as `core/history` knows it. */
export const loggedJson = ({
  version,
  author_id,
  at,
  body,
}: Pick<LoggedRow, 'version' | 'author_id' | 'at' | 'body'>): LoggedJson => ({
  version,
  author: author_id,
  at: at.getTime(),
  body,
});

/** Many pages at their newest versions, in two statements; who wrote what is not read. */
export async function readNewest(
  db: Connection,
  pages: readonly PageOrigin[],
): Promise<Map<string, Node>> {
  const ids = pages.map(({ id }) => id);
  const { rows: kept } = await sql<{ page_id: string; version: number; doc: object }>`
    select distinct on (page_id) page_id, version, doc from snapshot where page_id = any(${ids}::uuid[])
    order by page_id, version desc`.execute(db);
  const from = new Map(kept.map((row) => [row.page_id, row]));
  const { rows: steps } = await sql<{ page_id: string; body: object }>`
    select step.page_id, body
    from unnest(${ids}::uuid[], ${ids.map((id) => from.get(id)?.version ?? 0)}::int[]) as known(id, version)
    join page using (id) cross join lateral logged_steps(page.id, known.version, page.version) as step
    order by step.page_id, step.version`.execute(db);
  const stepsOf = grouped(steps, (row) => row.page_id);
  const docs = new Map<string, Node>();
  for (const page of pages) {
    const { id, source_id, source_version } = page;
    const snapshot = from.get(id);
    const begins = snapshot
      ? Node.fromJSON(schema, snapshot.doc)
      : await readOriginal(db, source_id ?? '', source_version ?? 0);
    docs.set(
      id,
      (stepsOf.get(id) ?? []).reduce(
        (doc, { body }) => applyStep(Step.fromJSON(schema, body), doc),
        begins,
      ),
    );
  }
  return docs;
}

/** The logged steps of many pages up to a moment, by page, and the page that each begins with. In a few statements. */
export async function readHistories(
  db: Connection,
  pages: readonly PageOrigin[],
  at: Date,
): Promise<Map<string, { start: Node; steps: LoggedRow[] }>> {
  const { rows } = await sql<LoggedRow & { page_id: string }>`
    select step.page_id, step.version, client, client_no, author_id, at, body
    from unnest(${pages.map(({ id }) => id)}::uuid[]) as known(id)
    join page using (id) cross join lateral logged_steps(page.id, 0, page.version) as step
    where step.at <= ${at} order by step.page_id, step.version`.execute(db);
  const stepsOf = grouped(rows, (row) => row.page_id);
  const histories = new Map<string, { start: Node; steps: LoggedRow[] }>();
  for (const page of pages) {
    const { doc: start } = await readPage(db, page, 0);
    histories.set(page.id, { start, steps: stepsOf.get(page.id) ?? [] });
  }
  return histories;
}

async function readSnapshot(db: Connection, page: string, version: number) {
  const row = await db
    .selectFrom('snapshot')
    .select(['version', 'doc', 'authorship'])
    .where('page_id', '=', page)
    .where('version', '<=', version)
    .orderBy('version', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!row) return null;
  return HeldPage.at(row.version, Node.fromJSON(schema, row.doc), asAuthorship(row.authorship));
}

/** The beginnings of many copies at once, which never change. */
const originals = new LRUCache<string, Node>({ max: 200 });

async function readOriginal(db: Connection, id: string, version: number): Promise<Node> {
  const key = `${id} ${version}`;
  const known = originals.get(key);
  if (known) return known;
  const source = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  const { doc } = await readPage(db, source, version);
  originals.set(key, doc);
  return doc;
}
