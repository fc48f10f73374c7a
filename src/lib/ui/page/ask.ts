import type { PageNews } from '$core/page/protocol';

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

/** Sends `body`, or asks for news without one. @throws Refused; any other error means that it may be tried again */
export async function askForNews(fetch: Fetch, url: string, body?: object): Promise<PageNews> {
  const init = body
    ? {
        method: 'POST',
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }
    : {};
  const answer = await fetch(url, { ...init, signal: AbortSignal.timeout(15_000) });
  if (answer.ok) return answer.json();
  const { message } = await answer.json().catch(() => ({ message: '' }));
  // A server that is away or overloaded is asked again; only a clear no is a no.
  if (answer.status >= 500 || answer.status === 429 || answer.status === 408)
    throw new Error(message);
  throw new Refused(answer.status, message);
}
