/** The ways in which copies are dealt to those who mark them, with what they are called. */
export const DEALS = { evenly: 'Evenly', group: 'By group' } as const;
export type DealBy = keyof typeof DEALS;

export interface DealAsked {
  by: DealBy;
  /** How many copies two people mark, without seeing what the other gives. */
  twice: number;
  /** The ids of those who mark. */
  markers: readonly string[];
}

/** Why copies cannot be dealt so, in a sentence; null when they can. */
export function dealFault({ markers, twice }: DealAsked, copies: number): string | null {
  if (markers.length === 0) return 'Choose who marks.';
  if (twice > 0 && markers.length < 2) return 'It takes two people to mark a copy twice.';
  if (twice > copies) return 'That is more than there are copies.';
  return null;
}

/**
 * Deals copies: evenly, so that nobody has two more than another; or a group's copies to one person, the largest group first, which
 * is as even as groups allow. Those that are marked twice lie evenly among all.
 * @param copies in the order of their students' names
 * @returns who marks each copy, one or two people
 */
export function dealCopies(
  copies: readonly { id: string; group: string }[],
  { by, twice, markers }: DealAsked,
): Map<string, string[]> {
  const loads = new Map(markers.map((id) => [id, 0]));
  const dealt = new Map<string, string[]>(copies.map(({ id }) => [id, []]));
  const give = (some: readonly { id: string }[]) => {
    const before = dealt.get(some[0]?.id ?? '') ?? [];
    const [next] = [...loads]
      .filter(([id]) => !before.includes(id))
      .sort(([, a], [, b]) => a - b)
      .map(([id]) => id);
    if (next === undefined) return;
    for (const { id } of some) dealt.get(id)?.push(next);
    loads.set(next, (loads.get(next) ?? 0) + some.length);
  };
  const isTwice = (index: number) => {
    const upTo = (at: number) => Math.floor((at * twice) / copies.length);
    return upTo(index + 1) > upTo(index);
  };
  if (by === 'group')
    for (const group of grouped(copies).sort((a, b) => b.length - a.length)) give(group);
  for (const [index, copy] of copies.entries()) {
    if (by === 'evenly') give([copy]);
    if (isTwice(index)) give([copy]);
  }
  return dealt;
}

/** Who is in no group stands for themselves. */
function grouped<T extends { group: string }>(copies: readonly T[]): T[][] {
  const groups = [...new Set(copies.map(({ group }) => group))].filter(Boolean);
  return [
    ...groups.map((name) => copies.filter(({ group }) => group === name)),
    ...copies.filter(({ group }) => group === '').map((copy) => [copy]),
  ];
}
