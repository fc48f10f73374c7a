import { sql } from 'kysely';
import pg from 'pg';
import type { Database } from '../db/connect';
import { log } from '../log';
import { Refusal } from '../page/refusal';

/** That something about a page is new. Carries no contents: who hears it asks for what it may see. */
export interface News {
  /** Null when many pages are new at once: whoever shows any of that place looks again. */
  page: string | null;
  version: number;
  /** The class or course it belongs to: their staff hear of it. */
  places: string[];
  /** The students whose copy it is, who hear of it too. */
  students: readonly string[];
  /** The class all of whose students hear of it. */
  studentsOf?: string;
  /** Whether more happened than writing: a move, a score, a comment. */
  record: boolean;
  /** Epoch milliseconds. */
  at: number;
}

/** Whose streams are to end: their rights are looked at anew when they come again, or they do not come again. */
export interface Ended {
  sessions?: readonly string[];
  people?: readonly string[];
}

/** An open stream of one person's browser. */
export interface Listener {
  person: string;
  session: string;
  /** The classes and courses whose staff this person is. */
  places: ReadonlySet<string>;
  /** The classes in which this person is a student. */
  studentOf: ReadonlySet<string>;
  hear: (news: readonly News[]) => void;
  /** News may have been missed: ask again from the last version. */
  resync: () => void;
  close: () => void;
}

const CHANNEL = 'uncia';
const ENDED = 'uncia_ended';
/** Streams that one person may have open at one process: browsers and, where tabs cannot share one, tabs. */
const MOST_STREAMS = 20;
/** How long news is gathered before it is told, in milliseconds. */
const GATHER = 50;
/** PostgreSQL takes payloads under 8000 bytes; there is nothing but ASCII in them. */
const PAYLOAD = 7000;
const RECONNECT_AFTER = 500;

/** Tells news to this process's streams and, through PostgreSQL, to those of all other processes. */
export class NewsHub {
  private readonly listeners = new Set<Listener>();
  private gathered = new Map<string, News>();
  private timer: NodeJS.Timeout | null = null;
  private client: pg.Client | null = null;
  private closed = false;
  private telling: Promise<void> = Promise.resolve();

  constructor(
    private readonly db: Database,
    private readonly url: string,
  ) {}

  /** Begins to hear other processes; goes on trying when the database is away. */
  async start(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    const again = () => {
      if (this.client !== client) return;
      this.client = null;
      client.end().catch(() => undefined);
      setTimeout(() => void this.start(), RECONNECT_AFTER).unref();
    };
    this.client = client;
    client.on('notification', ({ channel, payload }) => {
      if (channel === CHANNEL) this.spread(JSON.parse(payload ?? '[]'));
      else this.end(JSON.parse(payload ?? '{}'));
    });
    client.on('error', again);
    client.on('end', again);
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}; listen ${ENDED}`);
      for (const listener of this.listeners) listener.resync();
    } catch (error) {
      log.warn({ err: error }, 'news of other processes cannot be heard now');
      again();
    }
  }

  /** @throws Refusal when this person has too many streams open */
  add(listener: Listener): () => void {
    const theirs = [...this.listeners].filter(({ person }) => person === listener.person);
    if (theirs.length >= MOST_STREAMS)
      throw new Refusal(429, 'Uncia is open too often under this name. Please close some tabs.');
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  tell(news: News): void {
    const about = news.page ?? news.places.join();
    const record = news.record || (this.gathered.get(about)?.record ?? false);
    this.gathered.set(about, { ...news, record });
    this.timer ??= setTimeout(() => (this.telling = this.flush()), GATHER);
  }

  /** Ends streams here and at all other processes. */
  endStreams(ended: Ended): void {
    const { sessions = [], people = [] } = ended;
    const names = [
      ...sessions.map((one) => ({ sessions: [one] })),
      ...people.map((one) => ({ people: [one] })),
    ];
    if (names.length === 0) return;
    const payloads = names.map((one) => JSON.stringify(one));
    this.telling = this.telling
      .then(() =>
        sql`select pg_notify(${ENDED}, payload) from unnest(${payloads}::text[]) payload`.execute(
          this.db,
        ),
      )
      .then(
        () => undefined,
        (error) => {
          log.warn({ err: error }, 'other processes could not be told that streams end');
          this.end(ended);
        },
      );
  }

  private end({ sessions = [], people = [] }: Ended) {
    for (const listener of [...this.listeners])
      if (sessions.includes(listener.session) || people.includes(listener.person)) listener.close();
  }

  private async flush() {
    const news = [...this.gathered.values()];
    this.gathered = new Map();
    this.timer = null;
    const payloads: string[] = [];
    let together: string[] = [];
    let length = 0;
    const close = () => {
      if (together.length > 0) payloads.push(`[${together.join()}]`);
      [together, length] = [[], 0];
    };
    for (const one of news) {
      const text = JSON.stringify(one);
      if (length + text.length > PAYLOAD) close();
      together.push(text);
      length += text.length + 1;
    }
    close();
    try {
      await sql`select pg_notify(${CHANNEL}, payload) from unnest(${payloads}::text[]) payload`.execute(
        this.db,
      );
    } catch (error) {
      log.warn({ err: error }, 'news could not be told to other processes');
      this.spread(news);
    }
  }

  private spread(news: readonly News[]) {
    for (const listener of this.listeners) {
      const theirs = news.filter(
        ({ students, places, studentsOf }) =>
          students.includes(listener.person) ||
          places.some((place) => listener.places.has(place)) ||
          (studentsOf && listener.studentOf.has(studentsOf)),
      );
      if (theirs.length > 0) listener.hear(theirs);
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) {
      clearTimeout(this.timer);
      this.telling = this.flush();
    }
    await this.telling;
    for (const listener of [...this.listeners]) listener.close();
    const client = this.client;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}
