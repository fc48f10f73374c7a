import type { CopyRow } from '$core/copy/copy-row';
import type { Heard } from '$core/live/news';
import type { Loss } from '$core/headcount/level';
import { live } from '../live.svelte';
import { keepView } from '../outbox/kept-views';
import { sendLeftovers } from '../outbox/send-leftovers';
import type { PageSession } from './page-session.svelte';

/** A view that somebody stays in is kept for opening it without a network, so many milliseconds after it was opened. */
const KEEP_VIEW_AFTER = 2000;

/**
 * Keeps an open page up to date with the news.
 * @param on `threads`: something was said in its margin; `copy`: the copy stands differently, null for ask how; `loss`:
 * what was lost of it, after a change
 * @returns what closes the page
 */
export function followPage(
  session: PageSession,
  on: {
    threads?: () => void;
    copy?: (row: CopyRow | null) => void;
    loss?: (loss: Loss | null) => void;
    /** Something of its class changed. */
    changed?: { class: string; hear: () => void };
  } = {},
): () => void {
  void session.start(sendLeftovers);
  const kept = setTimeout(keepView, KEEP_VIEW_AFTER);
  const online = () => {
    session.hurry();
    on.changed?.hear();
  };
  addEventListener('online', online);
  const take = (heard: Heard) => {
    if (heard === 'resync') {
      void session.hear();
      on.threads?.();
      on.copy?.(null);
      on.changed?.hear();
      return;
    }
    for (const news of heard) {
      if (news.kind === 'class' && news.class === on.changed?.class) on.changed.hear();
      if (news.kind === 'class' || news.kind === 'here' || news.page !== session.page) continue;
      void session.hear(news.version, news.kind === 'written' ? news.steps : null);
      if (news.kind === 'threads') on.threads?.();
      if (news.kind === 'copy') on.copy?.(news.row);
      if (news.kind === 'written' && news.copy) on.loss?.(news.copy.loss);
    }
  };
  const stop = live.hear(take);
  take(live.sinceAsked);
  return () => {
    stop();
    clearTimeout(kept);
    removeEventListener('online', online);
    session.close();
  };
}
