import { momentIn, type Stretch } from '$core/history/moment';
import { askPage, Refused, type Fetch } from '../page/ask';
import { PageSession } from '../page/page-session.svelte';
import type { Unsent } from './leftover';

/** Where a page's history is asked for: a copy's, or an original's. */
const WAYS = ['pages', 'editor'];

async function readMoment(fetch: Fetch, page: string, version: number) {
  for (const way of WAYS)
    try {
      return momentIn(await askPage<Stretch>(fetch, `/${way}/${page}/history/${version}`), version);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
    }
  return null;
}

/**
 * Sends what an earlier visit left and the page refuses as a whole: its steps are done once more on the page as that visit
 * knew it, so that only what is refused stays behind.
 * @returns whether it could be done: the history of a page that others share is not for everybody @throws as `askPage`, or
 * NotSaved
 */
export async function replay(
  fetch: Fetch,
  page: string,
  { base, client, first, lost, steps }: Unsent,
): Promise<boolean> {
  const doc = await readMoment(fetch, page, base);
  if (!doc) return false;
  if (lost.length > 0)
    await askPage(fetch, `/pages/${page}/steps`, { base, client, first, lost, steps: [] });
  const session = new PageSession({
    page,
    version: base,
    doc: doc.toJSON(),
    plugins: [],
    setAside: [],
    fetch,
    goesOn: { client, first: first + lost.length },
  });
  session.redo(steps);
  try {
    await session.flush();
  } finally {
    session.close();
  }
  return true;
}
