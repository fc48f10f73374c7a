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

/** What visits that ended left unsent of a page, not what another tab still has; the latest last. */
export async function leftOf(page: string): Promise<Unsent[]> {
  const visits = (await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [];
  const left = await readMessages(unsentName(page, ''));
  return left.filter(([name]) => !visits.includes(name)).map(([, message]) => message);
}
