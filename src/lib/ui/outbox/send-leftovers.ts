import { askPage, Refused, type Fetch } from '../page/ask';
import {
  carryOn,
  keptName,
  NO_PAGE_TAKES_IT,
  readMessages,
  unsentName,
  type LeftoversSent,
  type Unsent,
} from './leftover';
import { store } from './sealed-store';

/** @throws as `askPage` when it is not sent, or cannot be done step by step */
async function sendOrReplay(fetch: Fetch, page: string, unsent: Unsent): Promise<void> {
  try {
    await askPage(fetch, `/pages/${page}/steps`, unsent);
  } catch (refusal) {
    if (!(refusal instanceof Refused && NO_PAGE_TAKES_IT.includes(refusal.status))) throw refusal;
    // Few need it: it comes when it is first asked for.
    const { replay } = await import('./replay');
    if (!(await replay(fetch, page, unsent))) throw refusal;
  }
}

/** What a page says no with to everything from this person. */
const NOT_THEIRS = [403, 404];

/**
 * Sends what earlier visits of this person could not send any more, to one page or to all.
 */
export async function sendLeftovers(fetch: Fetch, page = ''): Promise<LeftoversSent> {
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

/** Leftovers that could not be sent are tried again this often, in milliseconds. */
const TRY_AGAIN = 20_000;

/** Goes on sending what earlier visits left, of whatever page. @returns what ends it */
export function sendLeftoversAlong(): () => void {
  const send = () => void sendLeftovers((url, init) => fetch(url, init)).catch(() => undefined);
  send();
  const timer = setInterval(send, TRY_AGAIN);
  addEventListener('online', send);
  return () => {
    clearInterval(timer);
    removeEventListener('online', send);
  };
}
