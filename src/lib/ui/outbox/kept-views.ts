/** Has the view that is open kept as it is, so that it can be opened without a network. */
export function keepView(): void {
  // Where somebody works; what others work on is looked at with a network.
  if (!/^\/(work|read)\//.test(location.pathname)) return;
  void navigator.serviceWorker?.ready
    .then(async ({ active }) => {
      // What a visit without a network needs, and this one perhaps never.
      await Promise.all([import('$core/page/protocol'), import('../page/SetAside.svelte')]);
      const assets = performance.getEntriesByType('resource').map(({ name }) => name);
      active?.postMessage({ path: location.pathname, assets });
    })
    .catch(() => undefined);
}

/** Says who is here: what is kept of somebody else's views is forgotten. */
export function viewsAreOf(person: string): void {
  void navigator.serviceWorker?.ready
    .then(({ active }) => active?.postMessage({ person }))
    .catch(() => undefined);
}

/** Whoever goes takes their pages along. */
export function forgetViews(): void {
  navigator.serviceWorker?.controller?.postMessage({ forget: true });
}
