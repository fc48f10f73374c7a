import { Step } from 'prosemirror-transform';
import { textOfStep } from '$core/history/set-aside';
import type { StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import { askPage, type Fetch } from '../page/ask';
import { store, readAll } from './sealed-store';

/** Steps that the server has not taken in yet, as they lie in this browser. */
export type Unsent = StepsMessage;

/** What became of leftovers: a sentence when the server will not take some, and whether some must be tried again later. */
export interface LeftoversSent {
  sentence: string | null;
  later: boolean;
}

/** Words of an earlier visit that the server would not take; they stay in this browser until their writer says. */
export interface KeptText {
  key: string;
  words: string;
}

export const unsentName = (page: string, client: string) => `unsent ${page} ${client}`;
export const keptName = (page: string, client = '') => `kept ${page} ${client}`;

/** Keeps what a visit has not sent by then, or forgets it when there is nothing. */
export const saveUnsent = (
  page: string,
  client: string,
  unsent: () => Unsent | null,
): Promise<void> => store(unsentName(page, client), unsent);

/** Says that a visit goes on, so that other tabs leave its unsent steps to it. @returns what ends it */
export function holdVisit(page: string, client: string): () => void {
  let end: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    end = resolve;
  });
  void navigator.locks?.request(unsentName(page, client), () => held);
  return end;
}

/** What lies in this browser under names that begin so. */
export async function readMessages(prefix: string): Promise<[string, Unsent][]> {
  const all = await readAll(prefix);
  if (all.length === 0) return [];
  // Few browsers have any: what reads them comes when it is needed.
  const { StepsMessage } = await import('$core/page/protocol');
  return all.flatMap(([name, value]): [string, Unsent][] => {
    const read = StepsMessage.safeParse(value);
    return read.success ? [[name, read.data]] : [];
  });
}

/**
 * Brings words that a page does not take any more to what its student was given instead, where they are set aside.
 * @returns that page; null when there is none @throws as `askPage`
 */
export async function carryOn(
  fetch: Fetch,
  from: string,
  { client, first, lost, steps }: Unsent,
): Promise<string | null> {
  const { page } = await askPage<{ page: string | null }>(fetch, `/work/instead?of=${from}`);
  if (!page) return null;
  const { version: base } = await askPage<{ version: number }>(fetch, `/pages/${page}`);
  const message: Unsent = { base, client, first, lost: [...lost, ...steps], steps: [] };
  if (message.lost.length > 0) await askPage(fetch, `/pages/${page}/steps`, message);
  return page;
}

/** What a page says no with to a step, whoever makes it. */
export const NO_PAGE_TAKES_IT: readonly number[] = [413, 422];

/** Keeps steps that the server refused of this visit, until their writer has taken their words elsewhere. */
export const keepRefused = (page: string, refused: Unsent): Promise<void> =>
  store(keptName(page, `${refused.client} ${refused.first}`), refused);

export async function keptTexts(page: string): Promise<KeptText[]> {
  return (await readMessages(keptName(page)))
    .map(([key, { lost, steps }]) => ({
      key,
      words: [...lost, ...steps].map((step) => textOfStep(Step.fromJSON(schema, step))).join(''),
    }))
    .filter(({ words }) => words !== '');
}

export const forgetKept = (key: string): Promise<void> => store(key, null);
