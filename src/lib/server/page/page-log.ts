import { setImmediate as turn, setTimeout as pause } from 'node:timers/promises';
import { sql } from 'kysely';
import { LRUCache } from 'lru-cache';
import { Step } from 'prosemirror-transform';
import { fingerprint } from '$core/page/fingerprint';
import type { NewSteps } from '$core/live/news';
import type { PageNews, StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import type { Database } from '../db/connect';
import { placesThatHear, studentsWhoHear } from '../live/listeners';
import { SHARERS } from '../copy/holders';
import type { NewsHub } from '../live/news-hub';
import { ChangingPage, LOCKED_COLUMNS, type WhatComesBack, type Writer } from './changing-page';
import type { HeldPage, HeldStep } from './held-page';
import type { PageMemory } from './page-memory';
import { readPage, readSteps, type Connection, type PageOrigin } from './page-store';
import { logUnexpected } from '../log';
import { Refusal } from './refusal';
import { writeChanges } from './write-changes';
import { inTransaction, type Tx } from '../db/transaction';

interface Request {
  page: string;
  writer: Writer;
  message: StepsMessage;
  /** What happened since `message.base`, read before the page is locked; null where memory has it. */
  since: readonly HeldStep[] | null;
  /** Instead of steps: what is done with the page. */
  change: Change | null;
  done: (news: PageNews) => void;
  failed: (error: unknown) => void;
}

/**
 * Does something with a page that is locked, and what belongs to it in the same transaction.
 * @param client the name that its steps have in the log
 */
type Change = (tx: Tx, page: ChangingPage, client: string) => Promise<void>;

interface PutBack extends WhatComesBack {
  /** Recorded in the same transaction. */
  record: (tx: Tx, version: number) => Promise<void>;
}

const MOST_REQUESTS_AT_ONCE = 200;
/** A transaction with fewer requests than this is followed by a pause, in milliseconds, in which more come together. */
const FEW_REQUESTS = 20;
const PAUSE_AFTER_FEW = 10;

/** Who has been away for more steps than this opens the page again. */
const MOST_BEHIND = 5_000;

const gone = () => new Refusal(404, 'This page does not exist any more.');

/** Whether a group failed because of what one of its requests holds: PostgreSQL's classes of data and limits, or our own code. */
function isOfOneRequest(error: unknown): boolean {
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  return code === '' ? !/connection/i.test(String(error)) : /^(22|23|54)/.test(code);
}

/** What was written on a page after version `base`, as its clients hear of it; null where memory has it no more. */
function stepsSince(held: HeldPage, base: number): NewSteps | null {
  const entries = held.since(base);
  if (!entries) return null;
  const steps = entries.map(({ step, client, no }) => ({ step: step.toJSON(), client, no }));
  return { base, steps };
}

/** What a client of a page has had taken in. */
interface Client {
  /** A client's name belongs to the person who used it first. */
  person: string;
  last: number;
}

/**
 * The log of steps of every page, and the one way to change a page. Requests that arrive while a transaction runs go
 * together into the next one: each page is locked in the order of its id, each request brought up to date, checked and
 * appended or refused by itself.
 */
export class PageLog {
  private readonly clients = new LRUCache<string, Map<string, Client>>({ max: 2000 });
  private queue: Request[] = [];
  private running = false;

  constructor(
    private readonly db: Database,
    private readonly memory: PageMemory,
    private readonly news: NewsHub,
    private readonly clock: () => number = Date.now,
    /** Told of every page that was changed here, after its transaction. */
    private readonly changed: (page: string) => void = () => undefined,
  ) {}

  /** Appends a client's steps. @throws Refusal with the sentence for its person */
  async append(page: string, writer: Writer, message: StepsMessage): Promise<PageNews> {
    const since = await this.readSince(page, message.base);
    return this.enqueue({ page, writer, message, since, change: null });
  }

  /** Changes a page in another way than by a client's steps. @throws Refusal with the sentence for its person */
  async change(page: string, writer: Writer, change: Change): Promise<void> {
    const { version: base } = await this.open(page);
    const message = { base, client: crypto.randomUUID(), first: 1, lost: [], steps: [] };
    await this.enqueue({ page, writer, message, since: null, change });
  }

  /** Puts a page back as it stood, with one step. @throws Refusal with the sentence for its person */
  putBack(page: string, writer: Writer, { record, ...back }: PutBack): Promise<void> {
    return this.change(page, writer, async (tx, changing, client) => {
      if (!(await changing.putBack(writer, client, back)))
        throw new Refusal(409, 'The page stands like that now.');
      await record(tx, changing.held.version);
    });
  }

  private enqueue(request: Omit<Request, 'done' | 'failed'>): Promise<PageNews> {
    return new Promise((done, failed) => {
      this.queue.push({ ...request, done, failed });
      if (!this.running) void this.drain();
    });
  }

  /** The page at its newest version. */
  open = (page: string): Promise<HeldPage> => this.memory.open(this.db, page);

  /** What happened since version `base`. */
  async newsSince(page: string, base: number): Promise<PageNews> {
    const held = await this.open(page);
    if (base > held.version)
      throw new Refusal(409, 'This page is newer than the one that is kept.');
    return this.newsOf(page, held, base);
  }

  private async drain() {
    this.running = true;
    while (this.queue.length > 0) {
      // Who asks in the same turn goes together.
      await turn();
      const group = this.queue.splice(0, MOST_REQUESTS_AT_ONCE);
      await this.settle(group);
      if (group.length < FEW_REQUESTS) await pause(PAUSE_AFTER_FEW);
    }
    this.running = false;
  }

  /** Appends a group; when one of it cannot be written, the others go on without it. */
  private async settle(group: readonly Request[]): Promise<void> {
    try {
      for (const one of await this.appendGroup(group)) one();
    } catch (error) {
      if (!isOfOneRequest(error)) for (const request of group) request.failed(error);
      else if (group.length > 1) {
        const half = Math.ceil(group.length / 2);
        await this.settle(group.slice(0, half));
        await this.settle(group.slice(half));
      } else {
        logUnexpected(error, { part: 'log of steps' });
        group[0]?.failed(new Refusal(422, 'This change is not one that a page can take.'));
      }
    }
  }

  private async newsOf(page: string, held: HeldPage, base: number): Promise<PageNews> {
    const remembered = stepsSince(held, base)?.steps;
    const read = async () =>
      (await readSteps(this.db, page, base, held.version)).map((row) => ({
        step: row.body,
        client: row.client,
        no: row.client_no,
      }));
    const steps = remembered ?? (await read());
    const print = held.version % 20 === 0 ? fingerprint(held.doc) : null;
    return { base, version: held.version, steps, fingerprint: print, setAside: [] };
  }

  /** Takes in what clients of this group had reached before, where this process does not know it. */
  private async learnClients(tx: Tx, group: readonly Request[]) {
    const unknown = group.filter(
      ({ page, message }) => !this.clients.get(page)?.has(message.client),
    );
    if (unknown.length === 0) return;
    const pages = unknown.map((request) => request.page);
    const clients = unknown.map((request) => request.message.client);
    const wanted = sql`(page_id, client) in (select * from unnest(${pages}::uuid[], ${clients}::text[]))`;
    const { rows } = await sql<{ page_id: string; client: string; person: string; last: number }>`
      select page_id, client, min(author_id::text) as person, max(client_no)::int as last from (
        select page_id, client, author_id, client_no from step_writer where ${wanted}
        union all select page_id, client, author_id, client_no from set_aside where ${wanted}
      ) taken group by page_id, client`.execute(tx);
    for (const { page_id, client, person, last } of rows)
      this.reached(page_id, client, { person, last });
  }

  private reached(page: string, name: string, client: Client) {
    const clients = this.clients.get(page) ?? new Map<string, Client>();
    clients.set(name, client);
    this.clients.set(page, clients);
  }

  /** @returns what to do once the transaction has been committed */
  private async appendGroup(group: readonly Request[]): Promise<(() => void)[]> {
    const at = new Date(this.clock());
    return inTransaction(this.db, async (tx) => {
      const pages = await this.lock(tx, group, at);
      await this.learnClients(tx, group);
      const settle: (() => void)[] = [];
      const reached = new Map<string, { page: string; name: string; client: Client }>();
      for (const request of group) {
        const { client, first, lost, steps, base } = request.message;
        const key = `${request.page} ${client}`;
        const known = reached.get(key)?.client ?? this.clients.get(request.page)?.get(client);
        const { person, last } = known ?? { person: request.writer.id, last: 0 };
        try {
          const page = pages.get(request.page);
          if (!page) throw gone();
          if (person !== request.writer.id)
            throw new Refusal(409, 'This page is open under another name. Please open it again.');
          page.admit(request.writer, base);
          const setAside = await this.apply(tx, page, request, last);
          const now = Math.max(last, first + lost.length + steps.length - 1);
          reached.set(key, { page: request.page, name: client, client: { person, last: now } });
          const { held } = page;
          settle.push(() => {
            this.newsOf(request.page, held, base).then(
              (news) => request.done({ ...news, setAside }),
              request.failed,
            );
          });
        } catch (error) {
          settle.push(() => request.failed(error));
        }
      }
      await writeChanges(tx, [...pages.values()], at);
      settle.unshift(() => {
        for (const { page, name, client } of reached.values()) this.reached(page, name, client);
        for (const page of pages.values()) if (page.moved) this.committed(page);
      });
      return settle;
    });
  }

  private async apply(tx: Tx, page: ChangingPage, request: Request, last: number) {
    const { writer, message, change } = request;
    if (!change)
      return page.applyRequest(writer, message, last, await this.newsOn(tx, page, request));
    await change(tx, page, message.client);
    return [];
  }

  private async lock(tx: Tx, group: readonly Request[], at: Date) {
    const ids = [...new Set(group.map((request) => request.page))];
    const rows = await tx
      .selectFrom('page')
      .select(LOCKED_COLUMNS)
      .select(SHARERS.as('sharers'))
      .where('id', '=', sql<string>`any(${ids}::uuid[])`)
      .orderBy('id')
      .forUpdate()
      .execute();
    const pages = new Map<string, ChangingPage>();
    for (const row of rows) pages.set(row.id, new ChangingPage(row, await this.hold(tx, row), at));
    return pages;
  }

  private async hold(tx: Tx, row: PageOrigin): Promise<HeldPage> {
    // What another process appended may have come from a client that was ours before.
    if (this.memory.known(row.id)?.version !== row.version) this.clients.delete(row.id);
    return this.memory.hold(tx, row);
  }

  /**
   * What happened on a page since version `base`, with the pages between; null where memory has it.
   * @throws Refusal when that is too long ago
   */
  private async readSince(page: string, base: number): Promise<readonly HeldStep[] | null> {
    const held = this.memory.known(page);
    // A page that is not in memory is read with its group, in one go; asked for by itself here, it would cost a turn more.
    if (!held || base > held.version || held.since(base)) return null;
    return this.readBetween(this.db, page, base, held.version);
  }

  private async readBetween(db: Connection, page: string, base: number, to: number) {
    if (to - base > MOST_BEHIND)
      throw new Refusal(
        409,
        'This page has changed very much since. Your words stay here; please open it again.',
      );
    const row = await db
      .selectFrom('page')
      .select(['id', 'version', 'source_id', 'source_version'])
      .where('id', '=', page)
      .executeTakeFirstOrThrow();
    let before = (await readPage(db, row, base)).doc;
    const news: HeldStep[] = [];
    for (const logged of await readSteps(db, page, base, to)) {
      const { version, client, client_no: no, author_id: author } = logged;
      const step = Step.fromJSON(schema, logged.body);
      news.push({ step, before, version, client, no, author });
      before = step.apply(before).doc ?? before;
    }
    return news;
  }

  /** What happened since a request's base: from memory, else as it was read before, and what came after that. */
  private async newsOn(
    tx: Tx,
    { row, held, from }: ChangingPage,
    { message: { base }, since }: Request,
  ): Promise<readonly HeldStep[]> {
    const remembered = held.since(base);
    if (remembered) return remembered;
    const early = since ?? [];
    const reached = early.at(-1)?.version ?? base;
    const late = held.since(reached);
    if (late) return [...early, ...late];
    return [
      ...early,
      ...(await this.readBetween(tx, row.id, reached, from)),
      ...(held.since(from) ?? []),
    ];
  }

  private committed(page: ChangingPage) {
    const { row, held } = page;
    this.memory.keep(row.id, held);
    this.changed(row.id);
    const { done_mask: mask, words, written_at, level } = page.kept();
    this.news.publish({
      news: {
        kind: 'written',
        page: row.id,
        version: held.version,
        steps: row.student_id === null ? stepsSince(held, page.from) : null,
        copy:
          row.kind === 'copy'
            ? { mask, words, at: written_at?.getTime() ?? null, loss: level?.loss ?? null }
            : null,
      },
      places: placesThatHear(row),
      ...studentsWhoHear(row),
    });
  }
}
