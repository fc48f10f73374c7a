import { unsentName, readMessages, type Unsent } from './leftover';
import { read, readAll, store } from './sealed-store';

/** A page as the server had it last, for opening it without a network. */
export interface KeptPage {
  version: number;
  doc: object;
  /** When it was kept, in epoch milliseconds. */
  at: number;
}

const nameOf = (page: string) => `page ${page}`;
/** So long it can be opened without a network, in milliseconds. */
const DAYS = 7 * 24 * 60 * 60_000;

/** Once is enough for a tab. */
let isTidy = false;

/** Keeps a page in this browser for its person; older ones go. */
export async function keepPage(page: string, kept: KeptPage): Promise<void> {
  await store(nameOf(page), kept);
  if (isTidy) return;
  isTidy = true;
  for (const [name, value] of await readAll('page '))
    if (Date.now() - (value as KeptPage).at > DAYS) await store(name, null);
}

export const readKeptPage = async (page: string): Promise<KeptPage | null> =>
  (await read(nameOf(page))) as KeptPage | null;

/** What a visit that ended left unsent of a page at this version; null for nothing, or where a tab still has it. */
export async function leftAt(page: string, version: number): Promise<Unsent | null> {
  const visits = (await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [];
  const left = await readMessages(unsentName(page, ''));
  const own = left.filter(([name, { base }]) => !visits.includes(name) && base === version);
  return own.at(-1)?.[1] ?? null;
}

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
