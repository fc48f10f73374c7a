import { sql } from 'kysely';
import { Mapping, Step } from 'prosemirror-transform';
import { Spot } from '$core/attached/spot';
import { saidAs, type SaidFile } from '$core/copy/said-file';
import type { CommentView, MarginView, OnCriterion, ThreadView } from '$core/copy/threads';
import { moveAnchor, type Anchor } from '$core/history/anchor';
import { passageOf } from '$core/history/passage-of';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { SHARERS } from './holders';
import { lockPage } from './lock-page';
import { readProposals } from './proposals';
import { publishMargin } from './publish-margin';
import { refuseNotWaiting } from './said-files';
import type { OnPile } from './said-on-pile';
import { readUnseen, type Markers } from './scores-apart';
import { readRubricOf } from './scorings';
import { COMMENT_SENT, COMMENT_STANDS } from './sent';
import { tellOfComment } from './tell-of-feedback';
import { viewerOf, type Viewer } from './viewer';
import { withdrawIn } from './withdraw-comment';
import { Refusal } from '../page/refusal';
import { refuseSealed } from '../page/sealed';
import { readSteps, type Connection } from '../page/page-store';
import { schema } from '$core/page/schema';
import { Stamp } from '$core/stamps/stamp';
import { inTransaction, type Tx } from '../db/transaction';

/**
 * What stands in the margin of a page for one who looks, in the order of its words; what is settled, too.
 * @param markers where they are being read already
 */
export async function readMargin(
  app: Using<'db' | 'pages'>,
  page: string,
  viewer: Viewer,
  markers?: Markers,
): Promise<MarginView> {
  const [unseen, rows] = await Promise.all([
    readUnseen(app.db, page, viewer, markers),
    readRows(app.db, page, viewer),
  ]);
  const memory = await app.pages.open(page);
  const { version, threads } = threadsIn(rows, viewer, unseen);
  return {
    version,
    threads,
    proposals: await readProposals(app.db, { page, memory, version }, viewer, unseen),
  };
}

// One statement, so that version and places are of the same moment.
const readRows = (db: Connection, page: string, viewer: Viewer) =>
  db
    .selectFrom('page')
    .leftJoin('thread', 'thread.page_id', 'page.id')
    .leftJoin('comment', (join) =>
      join
        .onRef('comment.thread_id', '=', 'thread.id')
        .on(viewer.isStudent ? COMMENT_SENT : COMMENT_STANDS),
    )
    .leftJoin('person', 'person.id', 'comment.person_id')
    .leftJoin('attachment', 'attachment.id', 'thread.attachment_id')
    .leftJoin('upload', 'upload.id', 'attachment.upload_id')
    .leftJoin('upload as said', 'said.id', 'comment.upload_id')
    .select([
      'page.version',
      'thread.id',
      'thread.quote',
      'thread.made_by',
      'thread.at_from',
      'thread.at_to',
      'thread.staff_only',
      'thread.stamp',
      'thread.criterion',
      'said.name as said',
      'said.type as said_type',
      'comment.id as comment',
      'comment.kind',
      'comment.text',
      'comment.at',
      'comment.person_id',
      'person.given',
      'person.called',
      'person.role',
      'thread.spot',
      'thread.attachment_id',
      'attachment.url',
      'upload.name as file',
    ])
    .select(sql<boolean>`not (thread.staff_only or ${COMMENT_SENT})`.as('kept_back'))
    .where('page.id', '=', page)
    .orderBy('thread.at_from')
    .orderBy('comment.id')
    .execute();

const fileOf = (name: string | null, type: string | null): SaidFile | null => {
  const as = saidAs(type);
  return name === null || as === null ? null : { name, as };
};

/** @param unseen whose words the viewer does not see */
function threadsIn(
  rows: Awaited<ReturnType<typeof readRows>>,
  viewer: Viewer,
  unseen: readonly string[],
) {
  const threads = new Map<string, ThreadView>();
  for (const row of rows) {
    if (row.id === null || row.comment === null) continue;
    if (unseen.includes(row.made_by ?? '') || unseen.includes(row.person_id ?? '')) continue;
    const place = row.at_from !== null && row.at_to !== null;
    const thread = threads.get(row.id) ?? {
      id: row.id,
      quote: row.quote ?? '',
      anchor: place ? { from: Number(row.at_from), to: Number(row.at_to) } : null,
      on:
        row.attachment_id && row.spot
          ? {
              attachment: row.attachment_id,
              name: row.file ?? row.url ?? '',
              spot: Spot.parse(row.spot),
            }
          : null,
      criterion: row.criterion,
      settled: false,
      staffOnly: row.staff_only ?? false,
      stamp: row.stamp && Stamp.parse(row.stamp),
      comments: [],
    };
    thread.settled = row.kind === 'settled' || (row.kind === 'said' && thread.settled);
    thread.comments.push({
      id: row.comment,
      kind: row.kind ?? 'said',
      text: row.text ?? '',
      file: fileOf(row.said, row.said_type),
      by: row.called || row.given || '',
      own: row.person_id === viewer.id,
      byStudent: row.role === 'student',
      keptBack: row.kept_back,
      at: row.at?.getTime() ?? 0,
    });
    threads.set(row.id, thread);
  }
  // One of which all words were withdrawn is gone, though somebody settled it.
  const said = [...threads.values()].filter(({ comments }) =>
    comments.some(({ kind }) => kind === 'said'),
  );
  return { version: rows[0]?.version ?? 0, threads: said };
}

export const readOpenMargin = (
  app: Using<'db' | 'pages'>,
  {
    thing,
    person,
  }: Grant<'read the comments'> | Grant<'comment'> | Grant<'mark'> | Grant<'do own work'>,
): Promise<MarginView> => readMargin(app, thing.id, viewerOf(person));

interface NewThread {
  text: string;
  /** The words it is tied to, at a version the writer saw; null for the whole copy. */
  anchor: (Anchor & { version: number }) | null;
  /** The place on something attached that it is tied to instead, and the words that stand there. */
  on?: { attachment: string; spot: Spot; quote: string } | null;
  /** Whether its student hears of it when the copy goes back. */
  keptBack?: boolean;
  /** Whether it is for the staff alone. */
  staffOnly?: boolean;
  /** The picture, where it is a stamp. */
  stamp?: Stamp | null;
  /** The id of the criterion that it is on. */
  criterion?: string | null;
  /** A picture or a recording that waits for these words. */
  file?: string | null;
  /** The pile of answers on which it is said. */
  pile?: OnPile | null;
}

/** What was said: its thread and its comment, by their ids. */
export interface Said {
  thread: string;
  comment: string;
}

/** Ties a new thread to words, which may have moved since the writer saw them. */
export async function beginThread(
  app: Using<'db' | 'news' | 'pages'>,
  grant: Grant<'comment'>,
  thread: NewThread,
): Promise<Said> {
  const { person } = grant;
  const page = grant.thing.id;
  const forStaff = staffAlone(person, thread);
  if (thread.stamp) await refuseStamp(app.db, person, thread.stamp);
  const criterion = thread.criterion ? await criterionOf(app.db, page, thread.criterion) : null;
  const held = await app.pages.open(page);
  const changed = await inTransaction(app.db, async (tx) => {
    const row = await lockPage(tx, page);
    const made = thread.anchor;
    if (made && made.version > row.version)
      throw new Refusal(409, 'This page is newer than the one that is kept. Please open it again.');
    const since = made ? await readSteps(tx, page, made.version, row.version) : [];
    const change = new Mapping(since.map((entry) => Step.fromJSON(schema, entry.body).getMap()));
    const now = made ? moveAnchor(made, change) : null;
    const then =
      held.version === row.version && now && now.to <= held.doc.content.size ? now : null;
    const quote = then ? passageOf(held.doc, then.from, then.to, 300) : '';
    if (thread.on) await refuseElsewhere(tx, page, thread.on.attachment);
    if (thread.file) await refuseNotWaiting(tx, grant, thread.file);
    const { id } = await tx
      .insertInto('thread')
      .values({
        school_id: row.school_id,
        page_id: page,
        made_by: person.id,
        staff_only: thread.staffOnly,
        quote: thread.on?.quote ?? quote,
        attachment_id: thread.on?.attachment ?? null,
        spot: thread.on && JSON.stringify(thread.on.spot),
        stamp: thread.stamp && JSON.stringify(thread.stamp),
        criterion: criterion && JSON.stringify(criterion),
        made_version: made?.version ?? row.version,
        made_from: made?.from ?? null,
        made_to: made?.to ?? null,
        at_from: now?.from ?? null,
        at_to: now?.to ?? null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const { id: comment } = await tx
      .insertInto('comment')
      .values({
        school_id: row.school_id,
        thread_id: id,
        person_id: person.id,
        kind: 'said',
        text: thread.text,
        kept_back: thread.keptBack,
        upload_id: thread.file,
        pile: thread.pile && JSON.stringify(thread.pile),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .updateTable('page')
      .set((eb) => ({ threads: eb('threads', '+', 1) }))
      .where('id', '=', page)
      .execute();
    if (!forStaff) await tellOfComment(tx, grant, id);
    return { row, said: { thread: id, comment } };
  });
  publishMargin(app, page, changed.row, forStaff);
  return changed.said;
}

/** @throws Refusal when somebody does not have this stamp */
async function refuseStamp(db: Connection, person: { id: string; role: string }, stamp: Stamp) {
  if (person.role === 'student') throw new Refusal(403, 'Teachers put stamps on a copy.');
  if (stamp.kind === 'drawn') return;
  const own = await db
    .selectFrom('stamp')
    .select('id')
    .where('id', '=', stamp.id)
    .where('owner_id', '=', person.id)
    .where('away_at', 'is', null)
    .executeTakeFirst();
  if (!own) throw new Refusal(404, 'This stamp is none of yours any more.');
}

/** @throws Refusal when the page is not scored by it */
async function criterionOf(db: Connection, page: string, id: string): Promise<OnCriterion> {
  const { assignment_id } = await db
    .selectFrom('page')
    .select('assignment_id')
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const rubric = assignment_id === null ? null : await readRubricOf(db, assignment_id);
  const criterion = rubric?.table.criteria.find((one) => one.id === id);
  if (!criterion) throw new Refusal(409, 'This criterion is not in the rubric any more.');
  return { id, title: criterion.title };
}

/** @throws Refusal when it is not attached to the page */
async function refuseElsewhere(tx: Tx, page: string, attachment: string) {
  const there = await tx
    .selectFrom('attachment')
    .select('id')
    .where('id', '=', attachment)
    .where('page_id', '=', page)
    .where('away_at', 'is', null)
    .executeTakeFirst();
  if (!there) throw new Refusal(404, 'This is not attached any more.');
}

/** Whether only the staff hear of it, for now or for good. @throws Refusal when a student asks for that */
function staffAlone(
  { role }: { role: string },
  { keptBack = false, staffOnly = false }: { keptBack?: boolean; staffOnly?: boolean },
): boolean {
  const forStaff = keptBack || staffOnly;
  if (forStaff && role === 'student')
    throw new Refusal(403, 'What a student writes here is for their teachers at once.');
  return forStaff;
}

/** Adds to a thread of that page: words, or that it is settled or opened again. */
export async function addComment(
  app: Using<'db' | 'news'>,
  grant: Grant<'comment'>,
  thread: string,
  comment: {
    kind: CommentView['kind'];
    text: string;
    keptBack?: boolean;
    file?: string | null;
    /** The comment whose words these are anew. */
    instead?: string | null;
    /** The comment that must still be the last one. */
    after?: string;
  },
): Promise<void> {
  const { person } = grant;
  const page = grant.thing.id;
  const commented = await inTransaction(app.db, async (tx) => {
    const row = await tx
      .selectFrom('thread')
      .innerJoin('page', 'page.id', 'thread.page_id')
      .select(['thread.school_id', 'thread.staff_only'])
      .select(['page.version', 'page.class_id', 'page.student_id'])
      .select(['page.sealed'])
      .select(SHARERS.as('sharers'))
      .where('thread.id', '=', thread)
      .where('thread.page_id', '=', page)
      .forUpdate('page')
      .executeTakeFirst();
    const { isStudent } = viewerOf(person);
    // Of what the staff keep among themselves a student knows not even that it is there.
    const isHeard = await isHeardOf(tx, thread);
    if (!row || (isStudent && !isHeard))
      throw new Refusal(404, 'This thread does not exist any more.');
    refuseSealed(row);
    if (comment.after) await refuseAnswered(tx, thread, comment.after);
    const saysNothing = comment.kind !== 'said' && !isHeard;
    const forStaff = staffAlone(person, comment) || row.staff_only || saysNothing;
    if (comment.file) await refuseNotWaiting(tx, grant, comment.file);
    if (comment.instead) await withdrawIn(tx, grant, comment.instead);
    await tx
      .insertInto('comment')
      .values({
        school_id: row.school_id,
        thread_id: thread,
        person_id: person.id,
        kind: comment.kind,
        text: comment.text,
        kept_back: comment.keptBack,
        upload_id: comment.file,
      })
      .execute();
    if (comment.kind === 'said' && !forStaff) await tellOfComment(tx, grant, thread);
    return { row, forStaff };
  });
  publishMargin(app, page, commented.row, commented.forStaff);
}

/** @throws Refusal when more was said after a comment */
async function refuseAnswered(tx: Tx, thread: string, comment: string) {
  const later = await tx
    .selectFrom('comment')
    .select('id')
    .where('thread_id', '=', thread)
    .where('id', '>', comment)
    .executeTakeFirst();
  if (later) throw new Refusal(409, 'This was answered meanwhile. Please look again.');
}

/** Whether the students whose page it is know of a thread. */
const isHeardOf = async (tx: Tx, thread: string): Promise<boolean> =>
  (await tx
    .selectFrom('thread')
    .innerJoin('comment', 'comment.thread_id', 'thread.id')
    .select('thread.id')
    .where('thread.id', '=', thread)
    .where(COMMENT_SENT)
    .executeTakeFirst()) !== undefined;
