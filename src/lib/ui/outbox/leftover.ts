import { Step } from 'prosemirror-transform';
import { textOfStep } from '$core/history/set-aside';
import { StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import { askPage, Refused, type Fetch } from '../page/ask';
import { store, readAll } from './sealed-store';

/** Steps that the server has not taken in yet, as they lie in this browser. */
export type Unsent = StepsMessage;

/** Words of an earlier visit that the server would not take; they stay in this browser until their writer says. */
export interface KeptText {
  key: string;
  words: string;
}

const unsentName = (page: string, client: string) => `unsent ${page} ${client}`;
const keptName = (page: string, client = '') => `kept ${page} ${client}`;

/** Keeps what a visit has not sent yet, or forgets it when there is nothing. */
export const saveUnsent = (page: string, client: string, unsent: Unsent | null): Promise<void> =>
  store(unsentName(page, client), unsent);

/** Says that a visit goes on, so that other tabs leave its unsent steps to it. @returns what ends it */
export function holdVisit(page: string, client: string): () => void {
  let end: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    end = resolve;
  });
  void navigator.locks?.request(unsentName(page, client), () => held);
  return end;
}

async function readMessages(prefix: string): Promise<[string, Unsent][]> {
  const all = await readAll(prefix);
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

/** @throws as `askPage` when it is not sent, or cannot be done step by step */
async function sendOrReplay(fetch: Fetch, page: string, unsent: Unsent): Promise<void> {
  try {
    await askPage(fetch, `/pages/${page}/steps`, unsent);
  } catch (refusal) {
    if (!(refusal instanceof Refused && NO_PAGE_TAKES_IT.includes(refusal.status))) throw refusal;
    const { replay } = await import('./replay');
    if (!(await replay(fetch, page, unsent))) throw refusal;
  }
}

/** What a page says no with to everything from this person. */
const NOT_THEIRS = [403, 404];

/**
 * Sends what earlier visits of this person could not send any more, to one page or to all.
 * @returns a sentence when the server will not take some of it, and whether some must be tried again later
 */
export async function sendLeftovers(fetch: Fetch, page = '') {
  let sentence: string | null = null;
  let later = false;
  const visits = (await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [];
  for (const [name, unsent] of await readMessages(page ? unsentName(page, '') : 'unsent ')) {
    if (visits.includes(name)) continue;
    const [, to = ''] = name.split(' ');
    try {
      await sendOrReplay(fetch, to, unsent);
      await store(name, null);
    } catch (error) {
      const carried =
        error instanceof Refused &&
        NOT_THEIRS.includes(error.status) &&
        (await carryOn(fetch, to, unsent).catch(() => null));
      if (carried) await store(name, null);
      else if (error instanceof Refused && error.status !== 401) {
        await store(keptName(to, unsent.client), unsent);
        await store(name, null);
        sentence = `Some words written here earlier could not be added: ${error.message} They are kept in this browser.`;
      } else later = true;
    }
  }
  return { sentence, later };
}

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
