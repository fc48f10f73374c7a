/** So many pieces of one piece of work go on side by side: the database works on some while another is prepared. */
const MOST = 3;

/** Does something with each of many things, a few of them at once, and hears of the first that fails once all have ended. */
export async function sideBySide<T>(
  things: Iterable<T>,
  work: (thing: T) => Promise<void>,
): Promise<void> {
  const left = things[Symbol.iterator]();
  const lane = async () => {
    for (let next = left.next(); !next.done; next = left.next()) await work(next.value);
  };
  const ended = await Promise.allSettled(Array.from({ length: MOST }, lane));
  for (const one of ended) if (one.status === 'rejected') throw one.reason;
}
