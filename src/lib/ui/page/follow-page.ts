import type { CopyRow } from '$core/copy/copy-row';
import { live } from '../live.svelte';
import type { PageSession } from './page-session.svelte';

/**
 * Keeps an open page up to date with the news.
 * @param on `threads`: something was said in its margin; `copy`: the copy stands differently, null for ask how
 * @returns what closes the page
 */
export function followPage(
  session: PageSession,
  on: { threads?: () => void; copy?: (row: CopyRow | null) => void } = {},
): () => void {
  void session.start();
  addEventListener('online', session.hurry);
  const stop = live.hear((heard) => {
    if (heard === 'resync') {
      void session.hear();
      on.threads?.();
      on.copy?.(null);
      return;
    }
    for (const news of heard) {
      if (news.kind === 'class' || news.page !== session.page) continue;
      void session.hear(news.version);
      if (news.kind === 'threads') on.threads?.();
      if (news.kind === 'copy') on.copy?.(news.row);
    }
  });
  return () => {
    stop();
    removeEventListener('online', session.hurry);
    session.close();
  };
}
