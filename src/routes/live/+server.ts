import type { RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { placesOf } from '$server/access/places';

/** Proxies drop silent connections; a comment now and then keeps them, in milliseconds. */
const HEARTBEAT = 20_000;

/** The one stream of news to a browser: which pages have which version. */
export const GET = allowPerson('be signed in', async (_event: RequestEvent, { app, person }) => {
  const { places, studentOf } = await placesOf(app.db, person.id);
  let stop = (): void => undefined;
  const stream = new ReadableStream<string>({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(text);
        } catch {
          stop();
        }
      };
      const beat = setInterval(() => send(':\n\n'), HEARTBEAT);
      const remove = app.news.add({
        ...{ person: person.id, places, studentOf },
        hear: (news) => send(`data: ${JSON.stringify(news)}\n\n`),
        resync: () => send('event: resync\ndata: {}\n\n'),
        close: () => {
          stop();
          controller.close();
        },
      });
      stop = () => {
        clearInterval(beat);
        remove();
      };
      send('retry: 500\nevent: resync\ndata: {}\n\n');
    },
    cancel: () => stop(),
  });
  return new Response(stream.pipeThrough(new TextEncoderStream()), {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    },
  });
});
