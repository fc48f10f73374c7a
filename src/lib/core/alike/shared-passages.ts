import type { Anchor } from '../history/anchor';
import { grouped } from '../lists/grouped';
import type { Letters } from './letters';
import { hashesOf, winnow } from './winnow';

/** Letters and digits: what is shorter than the first is never found, what is as long as the second always. */
export const NEVER_BELOW = 25;
export const ALWAYS_FROM = 40;
/** The guarantee of the paper: a window of w hashes of k-grams finds every passage of w + k - 1. */
const WINDOW = ALWAYS_FROM - NEVER_BELOW + 1;

/** A copy as it is compared. */
export interface Compared {
  id: string;
  lines: readonly Letters[];
}

/** What two copies have in common: where it stands in each, and how long it is, in letters and digits. */
export interface SharedPassage {
  one: Anchor;
  other: Anchor;
  letters: number;
  /** As it was compared. */
  text: string;
}

/** Two copies that share passages, the longest first. */
interface Alike {
  one: string;
  other: string;
  passages: SharedPassage[];
}

interface Line extends Letters {
  /** Which of its letters are the original's. */
  given: boolean[];
}

/** Tells which k-grams are the originals': the one of that hash that begins at a place of a text. */
function readOriginals(originals: readonly Letters[]) {
  const known = new Map<number, string>();
  for (const { text } of originals)
    for (const [at, hash] of hashesOf(text, NEVER_BELOW).entries())
      known.set(hash, text.slice(at, at + NEVER_BELOW));
  return (hash: number, text: string, at: number): boolean => {
    const gram = known.get(hash);
    return gram !== undefined && text.startsWith(gram, at);
  };
}

interface Place {
  copy: number;
  line: Line;
  at: number;
}

/**
 * Which copies share passages that are not their original's, by winnowing. Found passages are followed to both sides as far as
 * they are equal; a shorter one than `ALWAYS_FROM` is left out. A fact, without a judgement: a quotation is one, too.
 * @param originals the lines of the pages that the copies began with
 * @param mayShare whether two are not compared: because the same students have them
 */
export function findAlike(
  copies: readonly Compared[],
  originals: readonly Letters[],
  mayShare: (one: string, other: string) => boolean = () => false,
): Alike[] {
  const isGiven = readOriginals(originals);
  const places = copies.flatMap(({ lines }, copy) =>
    lines.flatMap((letters) => {
      const hashes = hashesOf(letters.text, NEVER_BELOW);
      const given = Array<boolean>(letters.text.length).fill(false);
      for (const [at, hash] of hashes.entries())
        if (isGiven(hash, letters.text, at)) given.fill(true, at, at + NEVER_BELOW);
      const line: Line = { ...letters, given };
      return winnow(hashes, WINDOW)
        .filter(({ at }) => !given[at])
        .map(({ hash, at }) => ({ hash, place: { copy, line, at } }));
    }),
  );
  const found = new Map<string, SharedPassage[]>();
  for (const same of grouped(places, ({ hash }) => hash).values()) {
    // The first in each copy: who repeats a passage shares it once.
    const firsts = [...grouped(same, ({ place }) => place.copy).values()].flatMap(
      ([first]) => first?.place ?? [],
    );
    for (const [i, one] of firsts.entries())
      for (const other of firsts.slice(i + 1)) {
        const [a, b] = [copies[one.copy]?.id ?? '', copies[other.copy]?.id ?? ''];
        if (mayShare(a, b)) continue;
        const key = `${one.copy} ${other.copy}`;
        const known = found.get(key) ?? [];
        // It lies in a passage that was followed already: a long one has many fingerprints.
        if (known.some((seen) => isAt(one, seen.one) && isAt(other, seen.other))) continue;
        const passage = passageAt(one, other);
        if (passage && !known.some((seen) => isWithin(passage, seen)))
          found.set(key, [...known.filter((seen) => !isWithin(seen, passage)), passage]);
      }
  }
  return [...found].map(([key, passages]): Alike => {
    const [one = 0, other = 0] = key.split(' ').map(Number);
    return {
      one: copies[one]?.id ?? '',
      other: copies[other]?.id ?? '',
      passages: passages.sort((a, b) => b.letters - a.letters),
    };
  });
}

/** A passage, and the copies that have it: at least two. */
export interface PassageOf {
  copies: string[];
  /** Where the first of them has it. */
  at: Anchor;
  letters: number;
}

/** The passages that copies share, the longest first, each with all who have just it. */
export function passagesOf(all: readonly Alike[]): PassageOf[] {
  const found = all.flatMap(({ one, other, passages }) =>
    passages.map((passage) => ({ copies: [one, other], passage })),
  );
  const same = [...grouped(found, ({ passage }) => passage.text).values()];
  return same
    .flatMap((some) => {
      const [first] = some;
      if (!first) return [];
      const copies = [...new Set(some.flatMap((pair) => pair.copies))];
      return [{ copies, at: first.passage.one, letters: first.passage.letters }];
    })
    .sort((a, b) => b.letters - a.letters || b.copies.length - a.copies.length);
}

const isAt = ({ line, at }: Place, { from, to }: Anchor) => {
  const place = line.places[at] ?? -1;
  return from <= place && place < to;
};

const isWithin = (inner: SharedPassage, outer: SharedPassage) =>
  inner.one.from >= outer.one.from &&
  inner.one.to <= outer.one.to &&
  inner.other.from >= outer.other.from &&
  inner.other.to <= outer.other.to;

/** The passage around two equal places, as far as it goes; null where it is too short, or the original's. */
function passageAt(one: Place, other: Place): SharedPassage | null {
  const isSame = (by: number) => {
    const [a, b] = [one.at + by, other.at + by];
    const letter = one.line.text[a];
    return (
      letter !== undefined &&
      letter === other.line.text[b] &&
      !one.line.given[a] &&
      !other.line.given[b]
    );
  };
  let [first, behind] = [0, 0];
  while (isSame(behind)) behind++;
  if (behind < NEVER_BELOW) return null;
  while (isSame(first - 1)) first--;
  const letters = behind - first;
  if (letters < ALWAYS_FROM) return null;
  const anchor = ({ line, at }: Place): Anchor => ({
    from: line.places[at + first] ?? 0,
    to: (line.places[at + behind - 1] ?? 0) + 1,
  });
  const text = one.line.text.slice(one.at + first, one.at + behind);
  return { one: anchor(one), other: anchor(other), letters, text };
}
