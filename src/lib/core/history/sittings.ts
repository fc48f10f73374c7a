/** A step as far as it tells who worked when. */
interface Made {
  author: string;
  /** Epoch milliseconds. */
  at: number;
}

/** An unbroken stretch of work by one person on one page. Instants in epoch milliseconds. */
export interface Sitting<S extends Made = Made> {
  author: string;
  from: number;
  to: number;
  /** The steps made in it, in their order. */
  steps: S[];
}

/** A longer pause than this ends a sitting: 10 minutes, in milliseconds. */
export const PAUSE = 10 * 60_000;

/**
 * The sittings of a page in the order in which they began. Where two write at once, each has their own.
 * @param steps ascending in time
 */
export function sittingsOf<S extends Made>(steps: readonly S[]): Sitting<S>[] {
  const sittings: Sitting<S>[] = [];
  const latest = new Map<string, Sitting<S>>();
  for (const step of steps) {
    const { author, at } = step;
    const last = latest.get(author);
    if (last && at - last.to <= PAUSE) {
      last.to = at;
      last.steps.push(step);
    } else {
      const begun = { author, from: at, to: at, steps: [step] };
      sittings.push(begun);
      latest.set(author, begun);
    }
  }
  return sittings;
}
