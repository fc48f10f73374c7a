import { setImmediate as turn, setTimeout as pause } from 'node:timers/promises';
import { sql } from 'kysely';
import { LRUCache } from 'lru-cache';
import { Step } from 'prosemirror-transform';
import { fingerprint } from '$core/page/fingerprint';
import type { PageNews, StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import type { Database } from '../db/connect';
import { SHARERS, studentsWhoHear } from '../live/listeners';
import type { NewsHub } from '../live/news-hub';
import { ChangingPage, LOCKED_COLUMNS, type Writer } from './changing-page';
import type { HeldPage, HeldStep } from './held-page';
import { catchUp, readPage, readSteps, type Connection, type PageOrigin } from './page-store';
import { Refusal } from './refusal';
import { writeChanges } from './write-changes';

interface Request {
  page: string;
  writer: Writer;
  message: StepsMessage;
  done: (news: PageNews) => void;
  failed: (error: unknown) => void;
}

const MOST_REQUESTS_AT_ONCE = 200;
/** A transaction with fewer requests than this is followed by a pause, in milliseconds, in which more come together. */
const FEW_REQUESTS = 20;
const PAUSE_AFTER_FEW = 10;

const gone = () => new Refusal(404, 'This page does not exist any more.');

/**
 * The log of steps of every page, and the one way to change a page. Requests that arrive while a transaction runs go
 * together into the next one: each page is locked in the order of its id, each request brought up to date, checked and
 * appended or refused by itself.
 */
export class PageLog {
  private readonly held = new LRUCache<string, HeldPage>({ max: 2000 });
  /** The last number taken in from each client of a page. */
  private readonly lastNumbers = new LRUCache<string, Map<string, number>>({ max: 2000 });
  private queue: Request[] = [];
  private running = false;

  constructor(
    private readonly db: Database,
    private readonly news: NewsHub,
    private readonly clock: () => number = Date.now,
    /** Told of every page that was changed here, after its transaction. */
    private readonly changed: (page: string) => void = () => undefined,
  ) {}

  /** Appends a client's steps. @throws Refusal with the sentence for its person */
  append(page: string, writer: Writer, message: StepsMessage): Promise<PageNews> {
    return new Promise((done, failed) => {
      this.queue.push({ page, writer, message, done, failed });
      if (!this.running) void this.drain();
    });
  }

  /** The page at its newest version. */
  async open(page: string): Promise<HeldPage> {
    const row = await this.db
      .selectFrom('page')
      .select(['id', 'version', 'source_id', 'source_version'])
      .where('id', '=', page)
      .executeTakeFirst();
    if (!row) throw gone();
    return this.hold(this.db, row);
  }

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
      try {
        const settle = await this.appendGroup(group);
        for (const one of settle) one();
      } catch (error) {
        for (const request of group) request.failed(error);
      }
      if (group.length < FEW_REQUESTS) await pause(PAUSE_AFTER_FEW);
    }
    this.running = false;
  }

  private async hold(db: Connection, row: PageOrigin) {
    const known = this.held.get(row.id);
    if (known && known.version >= row.version) return known;
    const held = known ? await catchUp(db, row.id, known, row.version) : await readPage(db, row);
    // What another process appended may have come from a client that was ours before.
    this.lastNumbers.delete(row.id);
    this.held.set(row.id, held);
    return held;
  }

  private async newsOf(page: string, held: HeldPage, base: number): Promise<PageNews> {
    const remembered = held.since(base)?.map((entry) => ({
      step: entry.step.toJSON() as object,
      client: entry.client,
      no: entry.no,
    }));
    const read = async () =>
      (await readSteps(this.db, page, base, held.version)).map((row) => ({
        step: row.body,
        client: row.client,
        no: row.client_no,
      }));
    const steps = remembered ?? (await read());
    const mark = held.version % 20 === 0 ? fingerprint(held.doc) : null;
    return { base, version: held.version, steps, fingerprint: mark, setAside: [] };
  }

  /** Takes in the numbers that clients of this group had reached before, where this process does not know them. */
  private async learnNumbers(db: Connection, group: readonly Request[]) {
    const unknown = group.filter(
      ({ page, message }) => !this.lastNumbers.get(page)?.has(message.client),
    );
    if (unknown.length === 0) return;
    const pages = unknown.map((request) => request.page);
    const clients = unknown.map((request) => request.message.client);
    const { rows } = await sql<{ page_id: string; client: string; last: number }>`
      select page_id, client, max(client_no)::int as last from (
        select page_id, client, client_no from step
          where (page_id, client) in (select * from unnest(${pages}::uuid[], ${clients}::text[]))
        union all
        select page_id, client, client_no from set_aside
          where (page_id, client) in (select * from unnest(${pages}::uuid[], ${clients}::text[]))
      ) taken group by page_id, client`.execute(db);
    for (const { page, message } of unknown) this.reached(page, message.client, 0);
    for (const row of rows) this.reached(row.page_id, row.client, row.last);
  }

  private reached(page: string, client: string, number: number) {
    const clients = this.lastNumbers.get(page) ?? new Map<string, number>();
    clients.set(client, number);
    this.lastNumbers.set(page, clients);
  }

  /** @returns what to do once the transaction has been committed */
  private async appendGroup(group: readonly Request[]): Promise<(() => void)[]> {
    const at = new Date(this.clock());
    return this.db.transaction().execute(async (tx) => {
      const pages = await this.lock(tx, group, at);
      await this.learnNumbers(tx, group);
      const settle: (() => void)[] = [];
      const numbers = new Map<string, { page: string; client: string; last: number }>();
      for (const request of group) {
        const { client, first, lost, steps, base } = request.message;
        const key = `${request.page} ${client}`;
        const known = this.lastNumbers.get(request.page)?.get(client);
        const last = numbers.get(key)?.last ?? known ?? 0;
        try {
          const page = pages.get(request.page);
          if (!page) throw gone();
          page.admit(request.writer, base);
          const news = await this.newsOn(tx, page, base);
          const setAside = page.take(request.writer, request.message, last, news);
          const reached = Math.max(last, first + lost.length + steps.length - 1);
          numbers.set(key, { page: request.page, client, last: reached });
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
        for (const { page, client, last } of numbers.values()) this.reached(page, client, last);
        for (const page of pages.values()) if (page.moved) this.committed(page, at);
      });
      return settle;
    });
  }

  private async lock(tx: Connection, group: readonly Request[], at: Date) {
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

  /** What happened on a page since version `base`: from memory, else from the log and of this transaction. */
  private async newsOn(
    tx: Connection,
    page: ChangingPage,
    base: number,
  ): Promise<readonly HeldStep[]> {
    const { row, held, from } = page;
    const remembered = held.since(base);
    if (remembered) return remembered;
    let before = (await readPage(tx, row, base)).doc;
    const news: HeldStep[] = [];
    for (const logged of await readSteps(tx, row.id, base, from)) {
      const { version, client, client_no: no, author_id: author } = logged;
      const step = Step.fromJSON(schema, logged.body);
      news.push({ step, before, version, client, no, author });
      before = step.apply(before).doc ?? before;
    }
    return [...news, ...(held.since(from) ?? [])];
  }

  private committed({ row, held }: ChangingPage, at: Date) {
    this.held.set(row.id, held);
    this.changed(row.id);
    this.news.tell({
      page: row.id,
      version: held.version,
      places: [row.class_id, row.course_id].filter((place) => place !== null),
      ...studentsWhoHear(row),
      // Of a class's own pages its students hear, too, but for those that staff alone open.
      ...(row.area !== null && row.area !== 'cupboard' && row.class_id !== null
        ? { studentsOf: row.class_id }
        : {}),
      record: false,
      at: at.getTime(),
    });
  }
}
