import { sql } from 'kysely';
import { LRUCache } from 'lru-cache';
import pg from 'pg';
import { asStudentSees } from '$core/copy/copy-row';
import { writtenOn, type News } from '$core/live/news';
import type { Database } from '../db/connect';
import { log } from '../log';
import { Refusal } from '../page/refusal';

/** News, and who hears it. */
export interface Publication {
  news: News;
  /** The class or course it belongs to: their staff hear of it. */
  places: readonly string[];
  /** The students whose copy it is, who hear of it too. */
  students?: readonly string[];
  /** The class all of whose students hear of it. */
  studentsOf?: string;
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
  /** @param text news as JSON: what this person may know of it */
  hear: (text: string) => void;
  /** News may have been missed: ask again from the last version. */
  resync: () => void;
  close: () => void;
}

const CHANNEL = 'uncia';
const ENDED = 'uncia_ended';
/** Streams that one person may have open at one process: browsers and, where tabs cannot share one, tabs. */
const MOST_STREAMS = 20;
/** How long news is gathered before it is published, in milliseconds. */
const GATHER = 50;
/** PostgreSQL takes payloads under 8000 bytes; these are ASCII. */
const PAYLOAD = 7000;
/**
 * Who asked for a page and was let in hears for so long what is written on it, in milliseconds, and is let in anew then:
 * whoever may not read it any more hears nothing of it.
 */
const LET_IN = 2000;
const RECONNECT_AFTER = 500;

/** Publishes news to this process's streams and, through PostgreSQL, to those of all other processes. */
export class NewsHub {
  private readonly listeners = new Set<Listener>();
  private readonly letIn = new LRUCache<string, true>({ max: 20_000, ttl: LET_IN });
  private gathered = new Map<string, Publication>();
  private timer: NodeJS.Timeout | null = null;
  private client: pg.Client | null = null;
  private closed = false;
  private publishing: Promise<void> = Promise.resolve();

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

  /** Somebody was just now let in to a page. */
  isIn(person: string, page: string): void {
    this.letIn.set(`${person} ${page}`, true);
  }

  /** Of two that say the same of the same thing within a moment the later one is published. */
  publish(publication: Publication): void {
    const { news } = publication;
    const subject = subjectOf(news);
    const earlier = this.gathered.get(subject)?.news;
    this.gathered.set(
      subject,
      news.kind === 'written' && earlier?.kind === 'written'
        ? { ...publication, news: writtenOn(earlier, news) }
        : publication,
    );
    this.timer ??= setTimeout(() => (this.publishing = this.flush()), GATHER);
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
    this.publishing = this.publishing
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
    const publications = [...this.gathered.values()];
    this.gathered = new Map();
    this.timer = null;
    const payloads: string[] = [];
    let together: string[] = [];
    let length = 0;
    const close = () => {
      if (together.length > 0) payloads.push(`[${together.join()}]`);
      [together, length] = [[], 0];
    };
    for (const one of publications) {
      const text = inAscii(JSON.stringify(one));
      const fits = text.length < PAYLOAD ? text : inAscii(JSON.stringify(coarse(one)));
      if (length + fits.length > PAYLOAD) close();
      together.push(fits);
      length += fits.length + 1;
    }
    close();
    try {
      await sql`select pg_notify(${CHANNEL}, payload) from unnest(${payloads}::text[]) payload`.execute(
        this.db,
      );
    } catch (error) {
      log.warn({ err: error }, 'news could not be published to other processes');
      this.spread(publications);
    }
  }

  private spread(publications: readonly Publication[]) {
    const texts = new Map<string, string>();
    for (const listener of this.listeners) {
      const theirs = publications.flatMap((one) => {
        const { news } = one;
        const isIn = news.kind === 'written' && this.letIn.has(`${listener.person} ${news.page}`);
        return textFor(listener, one, isIn, texts);
      });
      if (theirs.length > 0) listener.hear(`[${theirs.join()}]`);
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) {
      clearTimeout(this.timer);
      this.publishing = this.flush();
    }
    await this.publishing;
    for (const listener of [...this.listeners]) listener.close();
    const client = this.client;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}

/** What news is about. Of one copy it is two things what two people did: a look counts for whoever looked. */
const subjectOf = (news: News): string =>
  news.kind === 'class'
    ? `class ${news.class}`
    : `${news.kind} ${news.page} ${news.kind === 'copy' ? news.by : news.kind === 'here' ? news.person : ''}`;

/** PostgreSQL counts bytes, and a name may have letters of several. */
const inAscii = (json: string) =>
  json.replace(
    /[\u0080-\uffff]/g,
    (letter) => `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );

/**
 * News that is too long for one notice: of a copy that very many share, that something of its class changed; of much
 * that was written, that it was.
 */
const coarse = ({ news, ...who }: Publication): Publication => ({
  ...who,
  news: news.kind === 'copy' ? { kind: 'class', class: news.row.class } : withoutSteps(news),
});

const withoutSteps = (news: News): News =>
  news.kind === 'written' ? { ...news, steps: null } : news;

/**
 * What a listener hears of a publication, as JSON: staff all of it, a student what they may know; nothing for others.
 * @param isIn whether they are in the page that it is about, and may read it
 * @param texts those that were made for others already, as many hear the same
 */
function textFor(
  listener: Listener,
  { news: all, places, students = [], studentsOf }: Publication,
  isIn: boolean,
  texts: Map<string, string>,
): string[] {
  const news = isIn ? all : withoutSteps(all);
  const isStaff = places.some((place) => listener.places.has(place));
  // Of a closed class its students hear nothing.
  const isOpen = news.kind !== 'copy' || listener.studentOf.has(news.row.class);
  const isStudent =
    isOpen &&
    (students.includes(listener.person) || (studentsOf && listener.studentOf.has(studentsOf)));
  if (!isStaff && !isStudent) return [];
  // A copy is told to each of its students in their own way; all else is the same for all of them.
  const to = isStaff ? 'staff' : news.kind === 'copy' ? listener.person : 'students';
  const key = `${subjectOf(news)} for ${to} ${isIn ? 'in it' : ''}`;
  const known = texts.get(key);
  if (known) return [known];
  const text = JSON.stringify(isStaff ? news : asStudentHears(news, listener.person));
  texts.set(key, text);
  return [text];
}

function asStudentHears(news: News, student: string): News {
  return news.kind === 'copy' ? { ...news, row: asStudentSees(news.row, student) } : news;
}
