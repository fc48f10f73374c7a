import { sql, type Selectable } from 'kysely';
import { partsOf, textOf } from '$core/page/parts';
import type { Database } from '../db/connect';
import type { Tables } from '../db/schema';
import { log } from '../log';
import type { PageLog } from '../page/page-log';

/** A page is read again once it has been quiet for so long, or after so long at the latest; in milliseconds. */
const QUIET = 5_000;
const LATEST = 60_000;
const LOOK_EVERY = 1_000;
/** At each look so few that writing is not held up; what is behind is caught up with in time. */
const AT_ONCE = 10;

/** Of a page's text so many characters are found: PostgreSQL's list of a text's words takes 1 MB at most. */
const MOST_BODY = 150_000;

type Entry = Selectable<Tables['find_entry']>;

/**
 * Keeps what is found of pages up to date, behind the writing. Which page was changed is only remembered; a process that
 * starts reads again whatever was left by one that died.
 */
export class Indexer {
  private readonly waiting = new Map<string, { first: number; last: number }>();
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<void> = Promise.resolve();
  /** Whether a process before this one may have left pages unread. */
  private behind = true;

  constructor(
    private readonly app: { db: Database; pages: PageLog },
    private readonly clock: () => number = Date.now,
  ) {}

  start(): void {
    this.timer = setInterval(() => {
      this.working = this.working.then(() => this.readQuiet()).catch(warn);
    }, LOOK_EVERY);
  }

  /** Remembers that a page was changed. */
  touch = (page: string): void => {
    const now = this.clock();
    this.waiting.set(page, { first: this.waiting.get(page)?.first ?? now, last: now });
  };

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    // What still waits is read by the next process.
    await this.working;
  }

  private async readQuiet() {
    const now = this.clock();
    const ripe = [...this.waiting]
      .filter(([, { first, last }]) => now - last >= QUIET || now - first >= LATEST)
      .map(([page]) => page)
      .slice(0, AT_ONCE);
    for (const page of ripe) this.waiting.delete(page);
    const { rows } = await sql<{ id: string }>`
      select id from find_entry where page_version < 0 limit ${AT_ONCE}`.execute(this.app.db);
    await this.read([...ripe, ...rows.map(({ id }) => id)]);
    if (this.behind) this.behind = await this.readLeft();
  }

  /** Reads again every page whose text is newer than what is found of it. */
  async catchUp(): Promise<void> {
    while (await this.readLeft());
  }

  /** @returns whether any was left */
  private async readLeft(): Promise<boolean> {
    const { rows } = await sql<{ id: string }>`
      select page.id from page
      left join find_entry on find_entry.kind = 'page' and find_entry.id = page.id::text
      where page.version > coalesce(find_entry.page_version, 0) or find_entry.page_version < 0
      limit ${AT_ONCE}`.execute(this.app.db);
    await this.read(rows.map(({ id }) => id));
    return rows.length > 0;
  }

  private async read(pages: readonly string[]) {
    if (pages.length === 0) return;
    const kinds = await this.app.db
      .selectFrom('page')
      .select(['id', 'kind', 'title', 'school_id', 'class_id', 'course_id', 'student_id'])
      .where('id', 'in', pages)
      .execute();
    const entries: Entry[] = [];
    for (const { kind, title, student_id, ...page } of kinds) {
      const { doc, version } = await this.app.pages.open(page.id);
      // Of a copy only what its student wrote is found: the rest is the original's.
      const body =
        kind === 'copy'
          ? partsOf(doc)
              .map(({ answer }) => answer)
              .join(' ')
          : textOf(doc);
      const rest = { owner_id: student_id, title, body, page_version: version };
      entries.push({ ...page, ...rest, kind: 'page' });
    }
    await this.put(entries);
  }

  /** Writes what is found of pages. One that cannot be written is found by its title alone, and stops no other. */
  private async put(entries: readonly Entry[]): Promise<void> {
    const short = entries.map((entry) => ({ ...entry, body: entry.body.slice(0, MOST_BODY) }));
    try {
      await sql`select find_put(${JSON.stringify(short)}::jsonb)`.execute(this.app.db);
    } catch (error) {
      const [only] = short;
      if (short.length > 1) for (const entry of entries) await this.put([entry]);
      else if (only?.body) {
        log.warn(
          { err: error, page: only.id },
          'the words of a page could not be kept for finding',
        );
        await this.put([{ ...only, body: '' }]);
      } else throw error;
    }
  }
}

const warn = (error: unknown) => log.warn({ err: error }, 'pages could not be read for finding');
