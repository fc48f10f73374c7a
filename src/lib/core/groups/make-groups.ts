/** Somebody to be put into a group; `value` is what groups are balanced by, where it is known. */
export interface Member {
  id: string;
  value?: number | string | null;
}

/** A whole number from 0 to `below` - 1. */
export type Chance = (below: number) => number;

function shuffled<T>(list: readonly T[], chance: Chance): T[] {
  const result = [...list];
  // Fisher and Yates, in the form of Durstenfeld 1964 (Algorithm 235).
  for (let last = result.length - 1; last > 0; last--) {
    const at = chance(last + 1);
    const [a, b] = [result[last], result[at]];
    if (a === undefined || b === undefined) continue;
    result[last] = b;
    result[at] = a;
  }
  return result;
}

/** How many groups of about a size: as many as whole ones fit, so that none is smaller; one at least. */
const groupCount = (members: number, size: number) =>
  Math.max(1, Math.floor(members / Math.max(1, size)));

/** Random groups whose sizes differ by one at most. */
export function randomGroups(members: readonly Member[], size: number, chance: Chance): string[][] {
  const groups: string[][] = Array.from({ length: groupCount(members.length, size) }, () => []);
  for (const [index, { id }] of shuffled(members, chance).entries())
    groups[index % groups.length]?.push(id);
  return groups;
}

/**
 * Groups that are alike in `value`: numbers are dealt from the highest down, to and fro; words so that each stands in every
 * group about equally often. Who has no value comes last. Within that, chance decides. Sizes differ by one at most.
 */
export function balancedGroups(
  members: readonly Member[],
  size: number,
  chance: Chance,
): string[][] {
  const mixed = shuffled(members, chance);
  const count = groupCount(members.length, size);
  const groups: string[][] = Array.from({ length: count }, () => []);
  const numbers = mixed.every(({ value }) => typeof value !== 'string');
  const rank = ({ value }: Member) => (typeof value === 'number' ? value : -Infinity);
  const words = new Map<string, number>();
  for (const { value } of mixed)
    words.set(String(value ?? ''), (words.get(String(value ?? '')) ?? 0) + 1);
  const often = ({ value }: Member) => words.get(String(value ?? '')) ?? 0;
  const inOrder = [...mixed].sort((a, b) =>
    numbers
      ? rank(b) - rank(a)
      : often(b) - often(a) || String(a.value ?? '').localeCompare(String(b.value ?? '')),
  );
  for (const [index, { id }] of inOrder.entries()) {
    const round = Math.floor(index / count);
    const place = index % count;
    const back = numbers && round % 2 === 1;
    groups[back ? count - 1 - place : place]?.push(id);
  }
  return groups;
}
