import { del, entries, set } from 'idb-keyval';
import { Step } from 'prosemirror-transform';
import { wordsOf } from '$core/history/set-aside';
import type { StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import { askForNews, Refused, type Fetch } from './ask';

/** Steps that the server has not taken in yet, as they lie in this browser's IndexedDB. */
export type Unsent = StepsMessage;

/** Words of an earlier visit that the server would not take; they stay in this browser until their writer says. */
export interface KeptWords {
  key: string;
  words: string;
}

const unsentKey = (page: string, client = '') => `unsent ${page} ${client}`;
const keptKey = (page: string, client = '') => `kept ${page} ${client}`;

/** Keeps what a visit has not sent yet, or forgets it when there is nothing. */
export async function keepUnsent(page: string, client: string, unsent: Unsent | null) {
  if (!globalThis.indexedDB) return;
  await (unsent ? set(unsentKey(page, client), unsent) : del(unsentKey(page, client)));
}

/** Says that a visit goes on, so that other tabs leave its unsent steps to it. @returns what ends it */
export function holdVisit(page: string, client: string): () => void {
  let end: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    end = resolve;
  });
  void navigator.locks?.request(unsentKey(page, client), () => held);
  return end;
}

async function readAll(prefix: string) {
  const all = await entries<string, Unsent>();
  return all.filter(([key]) => key.startsWith(prefix));
}

/**
 * Sends what earlier visits to this page could not send any more.
 * @returns a sentence when the server will not take some of it, and whether some must be tried again later
 */
export async function sendLeftovers(fetch: Fetch, page: string) {
  let sentence: string | null = null;
  let later = false;
  const visits = (await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [];
  for (const [key, unsent] of await readAll(unsentKey(page))) {
    if (visits.includes(key)) continue;
    try {
      await askForNews(fetch, `/pages/${page}/steps`, unsent);
      await del(key);
    } catch (error) {
      if (error instanceof Refused && error.status !== 401) {
        await set(keptKey(page, unsent.client), unsent);
        await del(key);
        sentence = `Some words written here earlier could not be added: ${error.message} They are kept in this browser.`;
      } else later = true;
    }
  }
  return { sentence, later };
}

export async function keptWords(page: string): Promise<KeptWords[]> {
  return (await readAll(keptKey(page)))
    .map(([key, { lost, steps }]) => ({
      key,
      words: [...lost, ...steps].map((step) => wordsOf(Step.fromJSON(schema, step))).join(''),
    }))
    .filter(({ words }) => words !== '');
}

export const forgetKept = (key: string): Promise<void> => del(key);
