import { sql } from 'kysely';
import { Mapping } from 'prosemirror-transform';
import { moveAnchor } from '$core/history/anchor';
import { partsOf } from '$core/page/parts';
import type { ChangingPage, SetAsideRow, StepRow } from './changing-page';
import type { HeldPage } from './held-page';
import type { Connection } from './page-store';

export async function insertSteps(db: Connection, rows: readonly StepRow[]): Promise<void> {
  if (rows.length === 0) return;
  await sql`insert into step (page_id, version, school_id, author_id, at, client, client_no, body)
    select * from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(page_id uuid, version int,
      school_id int, author_id uuid, at timestamptz, client text, client_no int, body jsonb)`.execute(
    db,
  );
}

/** Packs the steps of pages up to their newest snapshots; whoever calls it holds the pages. */
export async function packSteps(db: Connection, pages: readonly string[]): Promise<void> {
  if (pages.length === 0) return;
  await sql`select pack_steps(id) from unnest(${pages}::uuid[]) as held(id)`.execute(db);
}

async function insertSetAside(db: Connection, rows: readonly SetAsideRow[]) {
  if (rows.length === 0) return;
  await sql`insert into set_aside
      (page_id, client, client_no, school_id, author_id, at, base_version, body, words)
    select * from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(page_id uuid, client text,
      client_no int, school_id int, author_id uuid, at timestamptz, base_version int, body jsonb,
      words text) on conflict do nothing`.execute(db);
}

/** Writes snapshots of pages of one school; one that is there already stays. */
export async function writeSnapshots(
  db: Connection,
  at: Date,
  snapshots: readonly { id: string; school: number; held: HeldPage }[],
): Promise<void> {
  if (snapshots.length === 0) return;
  await db
    .insertInto('snapshot')
    .values(
      snapshots.map(({ id, school, held }) => ({
        page_id: id,
        version: held.version,
        school_id: school,
        at,
        doc: JSON.stringify(held.doc.toJSON()),
        authorship: JSON.stringify(held.authorship()),
        parts: JSON.stringify(partsOf(held.doc)),
      })),
    )
    .onConflict((conflict) => conflict.doNothing())
    .execute();
}

async function updateKept(db: Connection, pages: readonly ChangingPage[]) {
  const kept = JSON.stringify(pages.map((page) => page.kept()));
  await sql`update page set version = r.version, done_mask = r.done_mask, words = r.words,
      written_at = r.written_at, level = r.level
    from jsonb_to_recordset(${kept}::jsonb) as r(id uuid, version int,
      done_mask text, words int, written_at timestamptz, level jsonb)
    where page.id = r.id`.execute(db);
}

/** Keeps every thread on its words. */
async function moveThreads(db: Connection, pages: readonly ChangingPage[]) {
  const tied = pages.filter((page) => page.row.threads > 0);
  if (tied.length === 0) return;
  const ids = tied.map((page) => page.row.id);
  const threads = await db
    .selectFrom('thread')
    .select(['id', 'page_id', 'at_from', 'at_to'])
    .where('page_id', 'in', ids)
    .where('at_from', 'is not', null)
    .execute();
  const places = threads.flatMap(({ id, page_id, at_from, at_to }) => {
    const page = tied.find((one) => one.row.id === page_id);
    const steps = page?.held.since(page.from);
    if (!steps || at_from === null || at_to === null) return [];
    const change = new Mapping(steps.map((entry) => entry.step.getMap()));
    return [{ id, ...moveAnchor({ from: at_from, to: at_to }, change) }];
  });
  await sql`update thread set at_from = r.from, at_to = r.to
    from jsonb_to_recordset(${JSON.stringify(places)}::jsonb) as r(id uuid, "from" int, "to" int)
    where thread.id = r.id`.execute(db);
}

/** Writes what the requests of one transaction did to its pages. */
export async function writeChanges(
  db: Connection,
  pages: readonly ChangingPage[],
  at: Date,
): Promise<void> {
  const moved = pages.filter((page) => page.moved);
  const setAside = pages.flatMap((page) => page.setAside);
  await insertSteps(
    db,
    moved.flatMap((page) => page.steps),
  );
  if (moved.length > 0) await updateKept(db, moved);
  await insertSetAside(db, setAside);
  await writeSnapshots(
    db,
    at,
    moved.flatMap(({ row, snapshots }) =>
      snapshots.map((held) => ({ id: row.id, school: row.school_id, held })),
    ),
  );
  await packSteps(
    db,
    moved.flatMap(({ row, snapshots }) => (snapshots.length > 0 ? [row.id] : [])),
  );
  await moveThreads(db, moved);
}
