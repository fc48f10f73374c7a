import type { RequestEvent } from '@sveltejs/kit';
import type { Using } from '../services';
import { beginSession, SESSION_COOKIE } from './session';
import { KNOWN_COOKIE, KNOWN_FOR, rememberBrowser } from './sign-in';

/** Begins a session in the browser that asks, and remembers that its person uses it. */
export async function enter(
  app: Using<'db'>,
  { cookies, url, request }: Pick<RequestEvent, 'cookies' | 'url' | 'request'>,
  person: { id: string; school_id: number },
): Promise<void> {
  const agent = request.headers.get('user-agent') ?? '';
  const { token, expires } = await beginSession(app.db, person, Date.now(), agent);
  const known = await rememberBrowser(app.db, person, cookies.get(KNOWN_COOKIE));
  const secure = url.protocol === 'https:';
  const cookie = { path: '/', httpOnly: true, sameSite: 'lax', secure } as const;
  cookies.set(SESSION_COOKIE, token, { ...cookie, expires });
  cookies.set(KNOWN_COOKIE, known, { ...cookie, maxAge: KNOWN_FOR });
}
