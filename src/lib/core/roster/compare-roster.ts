import { distance } from 'fastest-levenshtein';
import { grouped } from '../lists/grouped';
import { plainWord } from '../text/plain-word';
import type { BadLine, Entry } from './read-roster';

/** A student the school knows. */
export interface Known {
  person: string;
  given: string;
  family: string;
  /** In lower case; empty for none. */
  email: string;
  /** By which the office knows them. */
  officeId: string | null;
  /** The name they sign in by. */
  signIn: string;
  /** Whether they may sign in. */
  enabled: boolean;
  /** Whether they are in the class now, were once, or never. */
  here: 'now' | 'once' | 'never';
}

/** One line of what would change. `key` names it as long as neither the file nor the roster changes. */
export type RosterChange = { key: string; line: number | null; name: string } & (
  | { kind: 'joins'; entry: Entry; person: string | null; back: boolean }
  | { kind: 'leaves'; person: string }
  | { kind: 'renamed'; entry: Entry; person: string; was: string }
  /** May not sign in any more, or again. */
  | { kind: 'shut out'; person: string }
  | { kind: 'let in'; person: string }
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

/** A name as it is compared. */
interface Plain {
  /** Family name, given name. */
  name: string;
  /** The other way round. */
  turned: string;
  given: string;
  family: string;
  families: readonly string[];
}

function plain(one: { given: string; family: string }): Plain {
  const [given, family] = [plainWord(one.given), plainWord(one.family)];
  return {
    name: `${family}, ${given}`,
    turned: `${given}, ${family}`,
    given,
    family,
    families: family.split(' '),
  };
}

/** So many characters at most may differ in two names that may be the same. */
const MOST_DIFFERENT = 3;
const mostDifferent = ({ name }: Plain) =>
  Math.min(MOST_DIFFERENT, Math.max(1, Math.floor(name.length / 6)));

/** Whether one has all words of the other, as with a middle name that was left out. */
function holdsAll(one: string, other: string): boolean {
  const [few, many] = [one.split(' '), other.split(' ')].sort((a, b) => a.length - b.length);
  return few?.every((word) => many?.includes(word)) ?? false;
}

/**
 * Of two names that may be the same: few characters differ, given and family stand the other way round, one family name is
 * part of the other, or one has more given names.
 */
function isNear(a: Plain, b: Plain): boolean {
  if (a.name === b.turned) return true;
  if (a.given === b.given && a.families.some((word) => b.families.includes(word))) return true;
  if (a.family === b.family && holdsAll(a.given, b.given)) return true;
  return distance(a.name, b.name) <= mostDifferent(b);
}

/** A name in one more piece than characters may differ: of a name that is nearly the same, one piece stands in it as it is. */
function piecesOf(of: Plain): { at: number; text: string }[] {
  const count = mostDifferent(of) + 1;
  const size = Math.ceil(of.name.length / count);
  return Array.from({ length: count }, (_, n) => ({
    at: n * size,
    text: of.name.slice(n * size, (n + 1) * size),
  }));
}

/** Everybody the school knows, found by the office's number, by name, and by what is nearly their name. */
class KnownPeople {
  private readonly byId: ReadonlyMap<string, Known>;
  /** Brothers and sisters may share an address. */
  private readonly byEmail: ReadonlyMap<string, readonly Known[]>;
  private readonly bySignIn: ReadonlyMap<string, Known>;
  private readonly byName: ReadonlyMap<string, readonly { one: Known }[]>;
  /** Places in `plain`, by given name, by the name turned round, and by each piece with where it stands. */
  private readonly places = new Map<string, number[]>();
  /** Where pieces stand, and how long they are. */
  private readonly shapes = new Map<string, { at: number; length: number }>();
  private readonly plain: readonly { one: Known; plain: Plain }[];
  /** Who was met in the file: nobody is met twice. */
  readonly met = new Set<string>();

  constructor(known: readonly Known[]) {
    this.plain = known.map((one) => ({ one, plain: plain(one) }));
    this.byId = new Map(known.flatMap((one) => (one.officeId ? [[one.officeId, one]] : [])));
    this.byEmail = grouped(
      known.filter(({ email }) => email !== ''),
      ({ email }) => email.toLowerCase(),
    );
    this.bySignIn = new Map(known.map((one) => [one.signIn.toLowerCase(), one]));
    this.byName = grouped(this.plain, (row) => row.plain.name);
    for (const [place, row] of this.plain.entries()) {
      this.put(`given ${row.plain.given}`, place);
      this.put(`family ${row.plain.family}`, place);
      this.put(`turned ${row.plain.turned}`, place);
      for (const { at, text } of piecesOf(row.plain)) {
        this.put(`${at} ${text}`, place);
        this.shapes.set(`${at} ${text.length}`, { at, length: text.length });
      }
    }
  }

  private put(key: string, place: number) {
    const there = this.places.get(key);
    if (there) there.push(place);
    else this.places.set(key, [place]);
  }

  private isFree = (one: Known): boolean => !this.met.has(one.person);

  /** The one person of a sign-in name or an e-mail address, whom the office does not know by another number. */
  private ofAddress(entry: Entry): Known | null {
    const signedIn = entry.signIn ? this.bySignIn.get(entry.signIn) : undefined;
    const all = (entry.email ? this.byEmail.get(entry.email) : undefined) ?? [];
    const [one, ...others] = (signedIn ? [signedIn] : all).filter(this.isFree);
    const isAnother = entry.officeId && one?.officeId && entry.officeId !== one.officeId;
    return one && others.length === 0 && !isAnother ? one : null;
  }

  /**
   * The one person who is meant for certain: by the office's number, by a sign-in name or an e-mail address with nearly the
   * same name, else by a name that only one of the school has.
   */
  same(entry: Entry): Known | null {
    const byId = entry.officeId ? this.byId.get(entry.officeId) : undefined;
    if (byId && this.isFree(byId)) return byId;
    const byAddress = this.ofAddress(entry);
    if (byAddress && isNear(plain(entry), plain(byAddress))) return byAddress;
    const named = (this.byName.get(plain(entry).name) ?? [])
      .map(({ one }) => one)
      .filter((one) => this.isFree(one) && !(entry.officeId && one.officeId));
    const here = named.filter((one) => one.here === 'now');
    if (here.length === 1) return here[0] ?? null;
    return named.length === 1 && here.length === 0 ? (named[0] ?? null) : null;
  }

  /** Somebody of the same sign-in name or e-mail address, or of nearly the same name. Whom the office knows by another number is another, however alike the names. */
  near(entry: Entry): Known | null {
    const byAddress = this.ofAddress(entry);
    if (byAddress) return byAddress;
    const name = plain(entry);
    for (const place of this.mayBeNear(name)) {
      const row = this.plain[place];
      if (!row || !this.isFree(row.one) || !isNear(name, row.plain)) continue;
      if (entry.officeId && row.one.officeId && entry.officeId !== row.one.officeId) continue;
      return row.one;
    }
    return null;
  }

  /** All who can be near, and few others, in their order: a school has too many to measure each name against each line. */
  private mayBeNear({ name, given, family }: Plain): number[] {
    const found = new Set<number>();
    const add = (key: string) => {
      for (const place of this.places.get(key) ?? []) found.add(place);
    };
    add(`given ${given}`);
    add(`family ${family}`);
    add(`turned ${name}`);
    for (const { at, length } of this.shapes.values())
      for (let by = -MOST_DIFFERENT; by <= MOST_DIFFERENT; by++)
        if (at + by >= 0) add(`${at} ${name.slice(at + by, at + by + length)}`);
    return [...found].sort((a, b) => a - b);
  }
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
  const people = new KnownPeople(known);
  const { met } = people;
  const seen = new Map<string, number | null>();
  let same = 0;

  const matched: RosterComparison['matched'] = [];
  const unmatched: Entry[] = [];
  for (const entry of entries) {
    const key = entry.officeId || plain(entry).name;
    const before = seen.get(key);
    if (before !== undefined) {
      const where = before === null ? 'there' : `on line ${before}`;
      twice.push({ line: entry.line, says: `${nameOf(entry)} stands ${where} already` });
      continue;
    }
    seen.set(key, entry.line);
    const match = people.same(entry);
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
        key: `joins ${person}`,
        line: entry.line,
        name,
        kind: 'joins',
        entry,
        person,
        back: here === 'once',
      });
    const renamed = nameOf(match) !== name;
    if (renamed)
      changes.push({
        key: `renamed ${person} ${name}`,
        line: entry.line,
        name,
        kind: 'renamed',
        entry,
        person,
        was: nameOf(match),
      });
    const { enabled = match.enabled } = entry;
    if (enabled !== match.enabled) {
      const kind = enabled ? 'let in' : 'shut out';
      changes.push({ key: `${kind} ${person}`, line: entry.line, name, kind, person });
    }
    if (here === 'now' && !renamed && enabled === match.enabled) same += 1;
  }
  for (const entry of unmatched) {
    const name = nameOf(entry);
    const near = people.near(entry);
    if (near) {
      met.add(near.person);
      changes.push({
        key: `doubtful ${near.person} ${name}`,
        line: entry.line,
        name,
        kind: 'doubtful',
        entry,
        person: near.person,
        other: nameOf(near),
        otherHere: near.here,
      });
    } else
      changes.push({
        key: `joins new ${entry.officeId} ${name}`,
        line: entry.line,
        name,
        kind: 'joins',
        entry,
        person: null,
        back: false,
      });
  }
  if (whole)
    for (const one of known)
      if (one.here === 'now' && !met.has(one.person))
        changes.push({
          key: `leaves ${one.person}`,
          line: null,
          name: nameOf(one),
          kind: 'leaves',
          person: one.person,
        });
  return { changes, same, matched, twice };
}
