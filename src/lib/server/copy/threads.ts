import { Mapping, Step } from 'prosemirror-transform';
import { Spot } from '$core/attached/spot';
import type { CommentView, Threads, ThreadView } from '$core/copy/threads';
import { moveAnchor, type Anchor } from '$core/history/anchor';
import { passageOf } from '$core/history/passage-of';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { studentsWhoHear } from '../live/listeners';
import { SHARERS } from './holders';
import { tellOfComment } from './tell-of-comment';
import { Refusal } from '../page/refusal';
import { refuseSealed } from '../page/sealed';
import { readSteps } from '../page/page-store';
import { schema } from '$core/page/schema';
import { inTransaction, type Tx } from '../db/transaction';

/** All threads of a copy in the order of their words; settled ones too, which leave the page but not the record. */
export async function readThreads(
  app: Using<'db'>,
  page: string,
  viewer: string,
): Promise<Threads> {
  // One statement, so that version and places are of the same moment.
  const rows = await app.db
    .selectFrom('page')
    .leftJoin('thread', 'thread.page_id', 'page.id')
    .leftJoin('comment', 'comment.thread_id', 'thread.id')
    .leftJoin('person', 'person.id', 'comment.person_id')
    .leftJoin('attachment', 'attachment.id', 'thread.attachment_id')
    .leftJoin('upload', 'upload.id', 'attachment.upload_id')
    .select([
      'page.version',
      'thread.id',
      'thread.quote',
      'thread.at_from',
      'thread.at_to',
      'comment.id as comment',
      'comment.kind',
      'comment.text',
      'comment.at',
      'comment.person_id',
      'person.given',
      'person.called',
      'thread.spot',
      'thread.attachment_id',
      'attachment.url',
      'upload.name as file',
    ])
    .where('page.id', '=', page)
    .orderBy('thread.at_from')
    .orderBy('comment.id')
    .execute();
  const threads = new Map<string, ThreadView>();
  for (const row of rows) {
    if (row.id === null || row.comment === null) continue;
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
      settled: false,
      comments: [],
    };
    thread.settled = row.kind === 'settled' || (row.kind === 'said' && thread.settled);
    thread.comments.push({
      id: row.comment,
      kind: row.kind ?? 'said',
      text: row.text ?? '',
      by: row.called || row.given || '',
      own: row.person_id === viewer,
      at: row.at?.getTime() ?? 0,
    });
    threads.set(row.id, thread);
  }
  return { version: rows[0]?.version ?? 0, threads: [...threads.values()] };
}

export const readOpenThreads = (
  app: Using<'db'>,
  { thing, person }: Grant<'read the comments'> | Grant<'comment'>,
): Promise<Threads> => readThreads(app, thing.id, person.id);

interface NewThread {
  text: string;
  /** The words it is tied to, at a version the writer saw; null for the whole copy. */
  anchor: (Anchor & { version: number }) | null;
  /** The place on something attached that it is tied to instead, and the words that stand there. */
  on?: { attachment: string; spot: Spot; quote: string } | null;
}

/** Ties a new thread to words, which may have moved since the writer saw them. */
export async function beginThread(
  app: Using<'db' | 'news' | 'pages'>,
  grant: Grant<'comment'>,
  thread: NewThread,
): Promise<void> {
  const { person } = grant;
  const page = grant.thing.id;
  const held = await app.pages.open(page);
  const changed = await inTransaction(app.db, async (tx) => {
    const row = await tx
      .selectFrom('page')
      .select(['version', 'school_id', 'class_id', 'student_id', 'sealed'])
      .select(SHARERS.as('sharers'))
      .where('id', '=', page)
      .forUpdate()
      .executeTakeFirstOrThrow();
    refuseSealed(row);
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
    const { id } = await tx
      .insertInto('thread')
      .values({
        school_id: row.school_id,
        page_id: page,
        made_by: person.id,
        quote: thread.on?.quote ?? quote,
        attachment_id: thread.on?.attachment ?? null,
        spot: thread.on && JSON.stringify(thread.on.spot),
        made_version: made?.version ?? row.version,
        made_from: made?.from ?? null,
        made_to: made?.to ?? null,
        at_from: now?.from ?? null,
        at_to: now?.to ?? null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .insertInto('comment')
      .values({
        school_id: row.school_id,
        thread_id: id,
        person_id: person.id,
        kind: 'said',
        text: thread.text,
      })
      .execute();
    await tx
      .updateTable('page')
      .set((eb) => ({ threads: eb('threads', '+', 1) }))
      .where('id', '=', page)
      .execute();
    await tellOfComment(tx, grant, id);
    return row;
  });
  publishThreads(app, page, changed);
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

function publishThreads(
  app: Using<'news'>,
  page: string,
  row: { version: number } & Parameters<typeof studentsWhoHear>[0],
) {
  app.news.publish({
    news: { kind: 'threads', page, version: row.version },
    places: row.class_id ? [row.class_id] : [],
    ...studentsWhoHear(row),
  });
}

/** Adds to a thread of that page: words, or that it is settled or opened again. */
export async function addComment(
  app: Using<'db' | 'news'>,
  grant: Grant<'comment'>,
  thread: string,
  comment: { kind: CommentView['kind']; text: string },
): Promise<void> {
  const { person } = grant;
  const page = grant.thing.id;
  const commented = await inTransaction(app.db, async (tx) => {
    const row = await tx
      .selectFrom('thread')
      .innerJoin('page', 'page.id', 'thread.page_id')
      .select(['thread.school_id', 'page.version', 'page.class_id', 'page.student_id'])
      .select(['page.sealed'])
      .select(SHARERS.as('sharers'))
      .where('thread.id', '=', thread)
      .where('thread.page_id', '=', page)
      .forUpdate('page')
      .executeTakeFirst();
    if (!row) throw new Refusal(404, 'This thread does not exist any more.');
    refuseSealed(row);
    await tx
      .insertInto('comment')
      .values({
        school_id: row.school_id,
        thread_id: thread,
        person_id: person.id,
        kind: comment.kind,
        text: comment.text,
      })
      .execute();
    if (comment.kind === 'said') await tellOfComment(tx, grant, thread);
    return row;
  });
  publishThreads(app, page, commented);
}
