/** That the students of one copy read another, and score it. */
export interface Reading {
  page: string;
  /** The copy of those who read. */
  by: string;
}

/** Why copies cannot be dealt so, in a sentence; null when they can. */
export function readersFault(copies: number, each: number): string | null {
  if (each < 1) return 'Say how many copies each student scores.';
  if (copies > each) return null;
  return copies < 2
    ? 'It takes two copies that are handed in.'
    : `Only ${copies} copies are handed in: each student can score ${copies - 1} at most.`;
}

/**
 * Deals copies to the students of the others: they stand in a circle, and those of each read the ones after it. So all give
 * as many scorings as they get.
 * @param copies in the order in which they stand
 * @param each how many each reads: fewer than there are copies
 */
export const dealReaders = (copies: readonly string[], each: number): Reading[] =>
  copies.flatMap((by, index) =>
    Array.from({ length: each }, (_, step) => ({
      page: copies[(index + step + 1) % copies.length] ?? by,
      by,
    })),
  );
