import Decimal from 'decimal.js';

/** The last score of one copy: what its students got, of how many points. Decimal texts. */
export interface CopyScore {
  members: readonly string[];
  points: string;
  most: string;
}

/**
 * What each student reached so far, from 0 to 1: the mean of what was scored of their copies, each counting the same,
 * whatever its points. Assignments without points count nowhere. For balancing groups.
 */
export function reachedSoFar(scores: readonly CopyScore[]): Record<string, number> {
  const shares = new Map<string, Decimal[]>();
  for (const { members, points, most } of scores) {
    if (new Decimal(most).lte(0)) continue;
    const share = new Decimal(points).div(most);
    for (const member of members) shares.set(member, [...(shares.get(member) ?? []), share]);
  }
  return Object.fromEntries(
    [...shares].map(([member, all]) => [
      member,
      Decimal.sum(...all)
        .div(all.length)
        .toNumber(),
    ]),
  );
}
