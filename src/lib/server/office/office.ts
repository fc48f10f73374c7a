import * as oauth from 'oauth4webapi';
import type { z } from 'zod';
import { ClassesAnswer, classesOf, entriesOf, UsersAnswer } from '$core/formats/oneroster-rest';
import type { Entry } from '$core/roster/read-roster';
import { log } from '../log';
import { Refusal } from '../page/refusal';
import type { Settings } from '../settings';

const ROSTERING = 'ims/oneroster/rostering/v1p2';
const SCOPE = 'https://purl.imsglobal.org/spec/or/v1p2/scope/roster.readonly';
/** Records asked for at once; the most that are read of one list. */
const [AT_ONCE, MOST] = [200, 20_000];
/** For one answer, in milliseconds. */
const PATIENCE = 10_000;
/** Of a token whose life is not said, in seconds. */
const USUAL_LIFE = 300;

/** What the office said could not be used; the sentence is for the person, the cause for the log. */
function misunderstood(cause: unknown): Refusal {
  log.warn({ err: cause }, 'the office answered something else');
  return new Refusal(
    502,
    'The office’s system answered something Uncia cannot read, so nothing was changed. A roster file works in the meantime.',
  );
}

/**
 * The school office's record system, over OneRoster 1.2 REST with the client credentials grant of OAuth 2. Only read; every
 * answer is checked, and one that is missing or strange becomes a Refusal with a sentence.
 */
export class Office {
  private token: { value: string; until: number } | null = null;

  constructor(
    private readonly at: { url: string; id: string; secret: string },
    private readonly now: () => number = Date.now,
  ) {}

  /** The classes the office has, by their codes or titles. */
  async classes() {
    const pages = await this.list(
      `${ROSTERING}/classes`,
      ClassesAnswer,
      ({ classes }) => classes.length,
    );
    return pages
      .flatMap(classesOf)
      .sort((a, b) => `${a.code}${a.title}`.localeCompare(`${b.code}${b.title}`));
  }

  /** The students of one of its classes. */
  async students(klass: string): Promise<Entry[]> {
    const path = `${ROSTERING}/classes/${encodeURIComponent(klass)}/students`;
    return (await this.list(path, UsersAnswer, ({ users }) => users.length)).flatMap(entriesOf);
  }

  /** The teachers it has. */
  async teachers(): Promise<Entry[]> {
    const path = `${ROSTERING}/teachers`;
    return (await this.list(path, UsersAnswer, ({ users }) => users.length)).flatMap(entriesOf);
  }

  /** A list is given in pieces; `X-Total-Count` says how much there is in all. */
  private async list<T extends z.ZodType>(
    path: string,
    shape: T,
    count: (piece: z.infer<T>) => number,
  ) {
    const pieces: z.infer<T>[] = [];
    for (let offset = 0; offset < MOST;) {
      const { body, total } = await this.get(`${path}?limit=${AT_ONCE}&offset=${offset}`);
      const read = shape.safeParse(body);
      if (!read.success) throw misunderstood(read.error);
      pieces.push(read.data);
      const got = count(read.data);
      offset += got;
      if (got === 0 || (total !== null ? offset >= total : got < AT_ONCE)) return pieces;
    }
    throw misunderstood(new Error(`more than ${MOST} records of ${path}`));
  }

  private async get(path: string): Promise<{ body: unknown; total: number | null }> {
    let answer = await this.ask(path, { authorization: `Bearer ${await this.bearer()}` });
    if (answer.status === 401) {
      this.token = null;
      answer = await this.ask(path, { authorization: `Bearer ${await this.bearer()}` });
    }
    if (answer.status === 404)
      throw new Refusal(
        404,
        'The office no longer has this class. Please choose another of its classes.',
      );
    const total = Number(answer.headers.get('x-total-count') ?? NaN);
    return { body: await this.read(answer), total: Number.isInteger(total) ? total : null };
  }

  private async bearer(): Promise<string> {
    if (this.token && this.token.until > this.now()) return this.token.value;
    const server = { issuer: this.at.url, token_endpoint: this.addressOf('token').href };
    const client = { client_id: this.at.id };
    const answer = await this.reach((signal) =>
      oauth.clientCredentialsGrantRequest(
        server,
        client,
        oauth.ClientSecretBasic(this.at.secret),
        { scope: SCOPE },
        // The stand-in speaks on loopback without TLS; whether the real one must is for the address in the settings.
        { signal, [oauth.allowInsecureRequests]: true },
      ),
    );
    try {
      const token = await oauth.processClientCredentialsResponse(server, client, answer);
      const { access_token: value, expires_in = USUAL_LIFE } = token;
      this.token = { value, until: this.now() + (expires_in - 10) * 1000 };
      return value;
    } catch (error) {
      if (answer.status === 400 || answer.status === 401)
        throw new Refusal(
          502,
          'The office’s system does not let Uncia in. Its address and password are in Uncia’s settings; please tell who keeps them.',
        );
      throw misunderstood(error);
    }
  }

  private addressOf(path: string): URL {
    return new URL(path, this.at.url.endsWith('/') ? this.at.url : `${this.at.url}/`);
  }

  private ask(path: string, headers: Record<string, string>): Promise<Response> {
    return this.reach((signal) =>
      fetch(this.addressOf(path), {
        headers: { accept: 'application/json', ...headers },
        redirect: 'error',
        signal,
      }),
    );
  }

  /** @throws Refusal when it does not answer in time, or at all */
  private async reach(request: (signal: AbortSignal) => Promise<Response>): Promise<Response> {
    try {
      return await request(AbortSignal.timeout(PATIENCE));
    } catch (error) {
      log.warn({ err: error }, 'the office does not answer');
      throw new Refusal(
        503,
        'The office’s system does not answer just now. Nothing was changed; please try again later, or bring a roster file.',
      );
    }
  }

  private async read(answer: Response): Promise<unknown> {
    if (!answer.ok) throw misunderstood(new Error(`status ${answer.status}`));
    return answer.json().catch((error) => {
      throw misunderstood(error);
    });
  }
}

/** The office that the settings name; null where they name none. */
export function officeOf(settings: Settings): Office | null {
  const { OFFICE_URL: url, OFFICE_CLIENT_ID: id, OFFICE_CLIENT_SECRET: secret } = settings;
  return url ? new Office({ url, id, secret }) : null;
}
