import type { Heard, WrittenNews } from '../../src/lib/core/live/news';
import type { Visitor } from '../../tests/support/visitor';

/** Hears what is written, in the live stream of a browser. @returns what ends it */
export async function listen(visitor: Visitor, hear: (news: WrittenNews) => void) {
  const stop = new AbortController();
  const answer = await visitor.fetch('/live', { signal: stop.signal });
  const stream = answer.body;
  if (!stream) throw new Error('no stream');
  void (async () => {
    const decoder = new TextDecoder();
    let text = '';
    for await (const chunk of stream) {
      text += decoder.decode(chunk, { stream: true });
      const messages = text.split('\n\n');
      text = messages.pop() ?? '';
      for (const message of messages) {
        const data = /^data: (.*)$/m.exec(message)?.[1];
        if (!data?.startsWith('[')) continue;
        const heard = JSON.parse(data) as Exclude<Heard, 'resync'>;
        for (const news of heard) if (news.kind === 'written') hear(news);
      }
    }
  })().catch(() => undefined);
  return () => stop.abort();
}
