import { redirect, type RequestEvent } from '@sveltejs/kit';
import { allowAnyone } from '$server/access/allow';
import { endSessions, SESSION_COOKIE, sessionOf } from '$server/access/session';

export const GET = allowAnyone('enter', () => redirect(303, '/'));

/** Ends the session. Pictures and pages go from the browser's cache; unsent words stay, sealed for their writer. */
export const POST = allowAnyone('enter', async ({ cookies }: RequestEvent, { app, person }) => {
  const token = cookies.get(SESSION_COOKIE);
  if (token && person) {
    const ended = await endSessions(app.db, person.id, { only: sessionOf(token) });
    app.news.endStreams({ sessions: ended });
  }
  cookies.delete(SESSION_COOKIE, { path: '/' });
  return new Response(null, { status: 204, headers: { 'clear-site-data': '"cache"' } });
});
