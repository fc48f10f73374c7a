import type { RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { placesOf } from '$server/access/places';
import { SESSION_COOKIE, sessionOf } from '$server/access/session';
import { newsStream } from '$server/live/stream';

/** The one stream of news to a browser. */
export const GET = allowPerson(
  'be signed in',
  async ({ cookies }: RequestEvent, { app, person }) => {
    const token = cookies.get(SESSION_COOKIE) ?? '';
    const stream = newsStream(
      { person: person.id, session: sessionOf(token), ...(await placesOf(app.db, person.id)) },
      (listener) => app.news.add(listener),
      async () => (await app.whoIs({ token, now: Date.now() })) !== null,
    );
    return new Response(stream, {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      },
    });
  },
);
