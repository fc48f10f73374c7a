import { live } from '../live.svelte';
import type { PageSession } from './page-session.svelte';

/**
 * Keeps an open page up to date with the news.
 * @param onRecord called when more happened than writing: a move, a score, a comment
 * @returns what closes the page
 */
export function followPage(session: PageSession, onRecord: () => void): () => void {
  void session.start();
  addEventListener('online', session.hurry);
  const stop = live.hear((heard) => {
    if (heard === 'resync') {
      void session.hear();
      onRecord();
      return;
    }
    const news = heard.find(({ page }) => page === session.page);
    if (!news) return;
    void session.hear(news.version);
    if (news.record) onRecord();
  });
  return () => {
    stop();
    removeEventListener('online', session.hurry);
    session.close();
  };
}
