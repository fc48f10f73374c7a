import { PageSession } from '../../src/lib/ui/page/page-session.svelte';
import { PASSWORD } from './school';

/** Somebody at a browser, as far as HTTP sees it: an address and a cookie. */
export class Visitor {
  constructor(
    private origin: string,
    private cookie = '',
  ) {}

  fetch = (path: string, init: RequestInit = {}): Promise<Response> =>
    fetch(`${this.origin}${path}`, {
      redirect: 'manual',
      ...init,
      headers: {
        accept: 'application/json',
        origin: this.origin,
        cookie: this.cookie,
        ...init.headers,
      },
    });

  /** Goes on at another process of the same school, with the same cookie. */
  moveTo(origin: string): this {
    this.origin = origin;
    return this;
  }

  send = (path: string, body: unknown, method = 'POST'): Promise<Response> =>
    this.fetch(path, {
      method,
      body: typeof body === 'string' ? body : JSON.stringify(body),
      headers: { 'content-type': 'application/json' },
    });

  submit = (path: string, fields: Record<string, string>): Promise<Response> =>
    this.fetch(path, {
      method: 'POST',
      body: new URLSearchParams(fields),
      headers: { 'x-sveltekit-action': 'true' },
    });

  async signIn(name: string, password = PASSWORD): Promise<Response> {
    const answer = await this.submit('/sign-in', { name, password, to: '/' });
    const cookies = answer.headers.getSetCookie().map((cookie) => cookie.split(';')[0]);
    this.cookie = cookies.find((cookie) => cookie?.startsWith('uncia=')) ?? this.cookie;
    return answer;
  }

  /** Opens a page with the very code that the browser runs. */
  async open(page: string): Promise<PageSession> {
    const answer = await this.fetch(`/pages/${page}`);
    if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`);
    const { doc, version } = await answer.json();
    return new PageSession({ page, doc, version, plugins: [], setAside: [], fetch: this.fetch });
  }
}
