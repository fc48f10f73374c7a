import { sql } from 'kysely';
import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { applyStep } from '$core/history/moment';
import { grouped } from '$core/lists/grouped';
import { schema } from '$core/page/schema';
import type { Tx } from '../db/transaction';
import { refuseTooLarge } from '../page/refuse-too-large';
import { Refusal } from '../page/refusal';
import { readPage } from '../page/page-store';

/** So many pages are looked at together. */
const PORTION = 20;

interface PageRow {
  id: string;
  title: string;
  version: number;
  source_id: string | null;
  source_version: number | null;
}

const broken = (title: string) =>
  new Refusal(
    422,
    `How “${title}” was written does not fit what is on it. Nothing was taken from this archive.`,
  );

/**
 * Replays every page of an archive that was read: each snapshot is the page that the steps before it make, and all of it
 * is what a page may be. @throws Refusal
 */
export async function checkHistories(tx: Tx): Promise<void> {
  // Originals come before the copies that begin as they were.
  const { rows: pages } = await sql<PageRow>`
    select page.id, title, version, source_id, source_version from page join archived_page using (id)
    order by kind = 'copy', n`.execute(tx);
  for (let first = 0; first < pages.length; first += PORTION)
    await checkPortion(tx, pages.slice(first, first + PORTION));
}

async function checkPortion(tx: Tx, pages: readonly PageRow[]) {
  const inPortion = sql<string>`any(${pages.map(({ id }) => id)}::uuid[])`;
  const snapshots = await tx
    .selectFrom('snapshot')
    .select(['page_id', 'version', 'doc'])
    .where('page_id', '=', inPortion)
    .orderBy('version')
    .execute();
  // None of what was just read lies in a pack.
  const steps = await tx
    .selectFrom('step')
    .select(['page_id', 'version', 'body'])
    .where('page_id', '=', inPortion)
    .orderBy('version')
    .execute();
  const snapshotsOf = grouped(snapshots, (row) => row.page_id);
  const stepsOf = grouped(steps, (row) => row.page_id);
  for (const page of pages) {
    try {
      await replay(tx, page, snapshotsOf.get(page.id) ?? [], stepsOf.get(page.id) ?? []);
    } catch (error) {
      if (error instanceof Refusal && error.status === 413) throw error;
      throw broken(page.title);
    }
  }
}

async function replay(
  tx: Tx,
  page: PageRow,
  snapshots: readonly { version: number; doc: object }[],
  steps: readonly { version: number; body: object }[],
) {
  const [first] = snapshots;
  if (steps.length === 0 && first && page.source_id === null) {
    // Of what a student's copies began as there are the pages alone, without how they were written.
    for (const { doc } of snapshots) safe(doc);
    if (snapshots.at(-1)?.version !== page.version) throw broken(page.title);
    return;
  }
  const origin =
    page.source_id === null || page.source_version === null
      ? first && first.version === 0
        ? safe(first.doc)
        : null
      : await beginning(tx, page.source_id, page.source_version);
  if (!origin || steps.length !== page.version) throw broken(page.title);
  const known = new Map(snapshots.map(({ version, doc }) => [version, doc]));
  let doc = origin;
  const compare = (version: number) => {
    const kept = known.get(version);
    if (kept && !safe(kept).eq(doc)) throw broken(page.title);
  };
  compare(0);
  for (const [index, step] of steps.entries()) {
    if (step.version !== index + 1) throw broken(page.title);
    doc = applyStep(Step.fromJSON(schema, step.body), doc);
    compare(step.version);
  }
  doc.check();
  refuseTooLarge(doc);
}

/** A page of the schema, of the size that pages have. @throws any error when it is none */
function safe(json: object): Node {
  const doc = Node.fromJSON(schema, json);
  doc.check();
  refuseTooLarge(doc);
  return doc;
}

const beginning = async (tx: Tx, id: string, version: number): Promise<Node> =>
  (await readPage(tx, { id, version, source_id: null, source_version: null }, version)).doc;
