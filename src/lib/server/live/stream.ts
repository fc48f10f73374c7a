import type { Listener } from './news-hub';

/** Proxies drop silent connections; a comment now and then keeps them, in milliseconds. */
const HEARTBEAT = 20_000;
/** So often it is asked whether the session still stands. */
const ASK_EVERY = 15;
/** So many bytes may wait for a slow reader, who is let go then; coming again, they ask from their last version. */
const MOST_WAITING = 64_000;

/**
 * A stream of server-sent events (WHATWG HTML, 9.2) for one listener. It ends with its session; of a reader who takes
 * nothing, what waits is thrown away.
 * @param add begins to hear @returns what ends it @throws Refusal when there are too many
 * @param stands whether the session still does
 */
export function newsStream(
  listener: Omit<Listener, 'hear' | 'resync' | 'close'>,
  add: (listener: Listener) => () => void,
  stands: () => Promise<boolean>,
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let stop = (): void => undefined;
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (text: string) => {
          if ((controller.desiredSize ?? 0) > 0) return controller.enqueue(encoder.encode(text));
          stop();
          controller.error(new Error('this reader takes no news'));
        };
        const close = () => {
          stop();
          controller.close();
        };
        const remove = add({
          ...listener,
          close,
          hear: (text) => send(`data: ${text}\n\n`),
          resync: () => send('event: resync\ndata: {}\n\n'),
        });
        let beats = 0;
        const beat = setInterval(() => {
          send(':\n\n');
          if (++beats % ASK_EVERY === 0) void stands().then((still) => still || close());
        }, HEARTBEAT);
        stop = () => {
          clearInterval(beat);
          remove();
          stop = () => undefined;
        };
        send('retry: 500\nevent: resync\ndata: {}\n\n');
      },
      cancel: () => stop(),
    },
    new ByteLengthQueuingStrategy({ highWaterMark: MOST_WAITING }),
  );
}
