import { distance } from 'fastest-levenshtein';
import { plainWord } from '../text/plain-word';
import type { BadLine, Entry } from './read-roster';

/** A student the school knows. */
export interface Known {
  person: string;
  given: string;
  family: string;
  /** By which the office knows her. */
  officeId: string | null;
  /** Whether she is in the class now, was once, or never. */
  here: 'now' | 'once' | 'never';
}

/** One line of what would change. `key` names it as long as neither the file nor the roster changes. */
export type RosterChange = { key: string; line: number | null; name: string } & (
  | { kind: 'joins'; entry: Entry; person: string | null; back: boolean }
  | { kind: 'leaves'; person: string }
  | { kind: 'renamed'; entry: Entry; person: string; was: string }
  /** Perhaps the same person as one the school knows, perhaps another of nearly the same name. */
  | { kind: 'doubtful'; entry: Entry; person: string; other: string; otherHere: Known['here'] }
);

export interface RosterComparison {
  changes: RosterChange[];
  /** How many stay as they are. */
  same: number;
  /** Whom the file means for certain, with the office's number for them. */
  matched: { person: string; officeId: string }[];
  /** Lines of the file that name somebody a line before named. */
  twice: BadLine[];
}

const nameOf = ({ given, family }: { given: string; family: string }) => `${family}, ${given}`;
const plain = (one: { given: string; family: string }) =>
  `${plainWord(one.family)}, ${plainWord(one.given)}`;

/**
 * Of two names that may be the same: few signs differ, given and family stand the other way round, or one family name is
 * part of the other.
 */
function isNear(a: Entry, b: Known): boolean {
  const [one, other] = [plain(a), plain(b)];
  const turned = plain({ given: b.family, family: b.given });
  const families = [plainWord(a.family).split(' '), plainWord(b.family).split(' ')] as const;
  const isPart =
    plainWord(a.given) === plainWord(b.given) &&
    families[0].some((word) => families[1].includes(word));
  return (
    isPart || one === turned || distance(one, other) <= Math.max(1, Math.floor(other.length / 6))
  );
}

/**
 * What a roster would change in a class.
 * @param whole whether the roster names everybody: who is not in it leaves
 */
export function compareRoster(
  entries: readonly Entry[],
  known: readonly Known[],
  whole: boolean,
): RosterComparison {
  const changes: RosterChange[] = [];
  const twice: RosterComparison['twice'] = [];
  const met = new Set<string>();
  const seen = new Map<string, number | null>();
  let same = 0;

  const matched: RosterComparison['matched'] = [];
  const unmatched: Entry[] = [];
  for (const entry of entries) {
    const mark = entry.officeId || plain(entry);
    const before = seen.get(mark);
    if (before !== undefined) {
      const where = before === null ? 'there' : `on line ${before}`;
      twice.push({ line: entry.line, says: `${nameOf(entry)} stands ${where} already` });
      continue;
    }
    seen.set(mark, entry.line);
    const match = findSame(entry, known, met);
    if (!match) {
      unmatched.push(entry);
      continue;
    }
    met.add(match.person);
    if (entry.officeId) matched.push({ person: match.person, officeId: entry.officeId });
    const { person, here } = match;
    const name = nameOf(entry);
    if (here !== 'now')
      changes.push({
        ...{ key: `joins ${person}`, line: entry.line, name, kind: 'joins', entry, person },
        back: here === 'once',
      });
    const renamed = nameOf(match) !== name;
    if (renamed)
      changes.push({
        ...{ key: `renamed ${person} ${name}`, line: entry.line, name, kind: 'renamed', entry },
        ...{ person, was: nameOf(match) },
      });
    if (here === 'now' && !renamed) same += 1;
  }
  for (const entry of unmatched) {
    const name = nameOf(entry);
    // Whoever the office knows by another number is another person, however alike the names.
    const near = known.find(
      (one) =>
        !met.has(one.person) &&
        !(entry.officeId && one.officeId && entry.officeId !== one.officeId) &&
        isNear(entry, one),
    );
    if (near) {
      met.add(near.person);
      changes.push({
        ...{ key: `doubtful ${near.person} ${name}`, line: entry.line, name, kind: 'doubtful' },
        ...{ entry, person: near.person, other: nameOf(near), otherHere: near.here },
      });
    } else
      changes.push({
        ...{ key: `joins new ${entry.officeId} ${name}`, line: entry.line, name, kind: 'joins' },
        ...{ entry, person: null, back: false },
      });
  }
  if (whole)
    for (const one of known)
      if (one.here === 'now' && !met.has(one.person))
        changes.push({
          ...{ key: `leaves ${one.person}`, line: null, name: nameOf(one) },
          ...{ kind: 'leaves', person: one.person },
        });
  return { changes, same, matched, twice };
}

/** The one person who is meant for certain: by the office's number, else by a name that only one of the school has. */
function findSame(entry: Entry, known: readonly Known[], met: ReadonlySet<string>): Known | null {
  const free = known.filter(({ person }) => !met.has(person));
  if (entry.officeId) {
    const byId = free.find(({ officeId }) => officeId === entry.officeId);
    if (byId) return byId;
  }
  const named = free.filter(
    (one) => plain(one) === plain(entry) && !(entry.officeId && one.officeId),
  );
  const here = named.filter((one) => one.here === 'now');
  if (here.length === 1) return here[0] ?? null;
  return named.length === 1 && here.length === 0 ? (named[0] ?? null) : null;
}
