import type { RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { placesOf } from '$server/access/places';
import { SESSION_COOKIE, sessionOf } from '$server/access/session';

/** Proxies drop silent connections; a comment now and then keeps them, in milliseconds. */
const HEARTBEAT = 20_000;
/** So often it is asked whether the session still stands. */
const ASK_EVERY = 15;
/** A reader who is so many pieces behind is let go; coming again, it asks from its last version. */
const MOST_WAITING = 200;

/** The one stream of news to a browser: which pages have which version. It ends with its session. */
export const GET = allowPerson(
  'be signed in',
  async ({ cookies }: RequestEvent, { app, person }) => {
    const { places, studentOf } = await placesOf(app.db, person.id);
    const token = cookies.get(SESSION_COOKIE) ?? '';
    let stop = (): void => undefined;
    const stream = new ReadableStream<string>(
      {
        start(controller) {
          const close = () => {
            stop();
            controller.close();
          };
          const send = (text: string) => {
            try {
              if ((controller.desiredSize ?? 0) <= 0) close();
              else controller.enqueue(text);
            } catch {
              stop();
            }
          };
          const remove = app.news.add({
            person: person.id,
            session: sessionOf(token),
            places,
            studentOf,
            close,
            hear: (news) => send(`data: ${JSON.stringify(news)}\n\n`),
            resync: () => send('event: resync\ndata: {}\n\n'),
          });
          let beats = 0;
          const beat = setInterval(() => {
            send(':\n\n');
            if (++beats % ASK_EVERY === 0)
              void app.whoIs({ token, now: Date.now() }).then((still) => still ?? close());
          }, HEARTBEAT);
          stop = () => {
            clearInterval(beat);
            remove();
          };
          send('retry: 500\nevent: resync\ndata: {}\n\n');
        },
        cancel: () => stop(),
      },
      { highWaterMark: MOST_WAITING },
    );
    return new Response(stream.pipeThrough(new TextEncoderStream()), {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      },
    });
  },
);
