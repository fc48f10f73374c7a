import { personHeader } from '../outbox/tab-person';
import { noteAnswer } from '../server-time';

/** A clear no of the server, with its sentence for the person. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

export type Fetch = (url: string, init?: RequestInit) => Promise<Response>;

/** A browser lets so many bytes of a request outlive its page; of several at once together twice as many. */
const MOST_KEPT_ALIVE = 30_000;

/** A POST of JSON by this tab's person; a small one goes on when the page is closed. */
export function asJson(value: object): RequestInit {
  const body = JSON.stringify(value);
  const headers = { 'content-type': 'application/json', ...personHeader() };
  return { method: 'POST', body, headers, keepalive: body.length < MOST_KEPT_ALIVE };
}

/** Sends `body`, or only asks without one. @throws Refused; any other error means that it may be tried again */
export async function askPage<Answer>(fetch: Fetch, url: string, body?: object): Promise<Answer> {
  const init = body ? asJson(body) : {};
  const answer = await fetch(url, { ...init, signal: AbortSignal.timeout(15_000) });
  noteAnswer(answer);
  if (answer.ok) return answer.json();
  const { message } = await answer.json().catch(() => ({ message: '' }));
  // A server that is away or overloaded is asked again; only a clear no is a no.
  if (answer.status >= 500 || answer.status === 429 || answer.status === 408)
    throw new Error(message);
  throw new Refused(answer.status, message);
}
