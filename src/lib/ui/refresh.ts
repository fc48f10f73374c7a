import { invalidate } from '$app/navigation';
import { navigating } from '$app/state';
import { live } from './live.svelte';

/** News is gathered this long before a view is read again, in milliseconds. */
const GATHER = 400;

async function refresh(dependency: `uncia:${string}`) {
  // A view that cannot be read again is replaced by an error, so the server is asked first whether it is there.
  const answer = await fetch('/health').catch(() => null);
  // A view that is on its way reads its own data; reading this one again would stop it.
  if (answer?.ok && !navigating.to) await invalidate(dependency);
}

/** Reads a view's data again when there is news. For an `{@attach}` or an effect. @returns what ends it */
export function refreshOnNews(dependency: `uncia:${string}`): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const stop = live.hear(() => {
    timer ??= setTimeout(() => {
      timer = null;
      void refresh(dependency);
    }, GATHER);
  });
  return () => {
    stop();
    if (timer) clearTimeout(timer);
  };
}
