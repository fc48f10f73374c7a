import { Step } from 'prosemirror-transform';
import { textOfStep } from '$core/history/set-aside';
import { StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import { askForNews, Refused, type Fetch } from '../page/ask';
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
      await askForNews(fetch, `/pages/${to}/steps`, unsent);
      await store(name, null);
    } catch (error) {
      if (error instanceof Refused && error.status !== 401) {
        await store(keptName(to, unsent.client), unsent);
        await store(name, null);
        sentence = `Some words written here earlier could not be added: ${error.message} They are kept in this browser.`;
      } else later = true;
    }
  }
  return { sentence, later };
}

export async function keptTexts(page: string): Promise<KeptText[]> {
  return (await readMessages(keptName(page)))
    .map(([key, { lost, steps }]) => ({
      key,
      words: [...lost, ...steps].map((step) => textOfStep(Step.fromJSON(schema, step))).join(''),
    }))
    .filter(({ words }) => words !== '');
}

export const forgetKept = (key: string): Promise<void> => store(key, null);
