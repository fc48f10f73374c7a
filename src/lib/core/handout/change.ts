import type { ChangeFact } from './change-facts';
import type { PlannedCopy } from './plan';
import { DELIVERIES } from './spec';

/** A copy that is there. */
export interface StandingCopy extends PlannedCopy {
  id: string;
  /** Whether anything was written in it. */
  begun: boolean;
  /** `kept`: replaced by another page, and still read; `withdrawn`: out of its students' sight. */
  standing: 'current' | 'kept' | 'withdrawn';
}

/** Who shares which page of a class, by the groups that its pages were handed out to: name and members. */
export const groupsOf = (standing: readonly StandingCopy[], klass: string) => [
  ...new Map(
    standing
      .filter((copy) => isShared(copy) && copy.class === klass && copy.group !== '')
      .map(({ group: name, members }) => [name, { name, members }]),
  ).values(),
];

/** How the copies that are there become those that are wanted. Nothing is ever removed. */
export interface CopyChange {
  /** `from`: the shared page that the new copy begins as, where it does not begin as its source. */
  make: (PlannedCopy & { from?: string | null })[];
  /** Come back into use as they are. */
  back: StandingCopy[];
  /** Are written no longer, and read by those who were given something else. */
  keep: StandingCopy[];
  /** Go out of their students' sight. */
  withdraw: StandingCopy[];
  /** Other people share them now. */
  members: { copy: StandingCopy; members: readonly string[] }[];
  /** Go with their student to another of the classes. */
  move: { copy: StandingCopy; class: string }[];
}

/** Copies that may stand for each other: of the same page, for the same student or group, in the same manner. */
const keyOf = (copy: PlannedCopy) =>
  copy.student
    ? `${copy.for} ${copy.delivery} ${copy.student}`
    : `${copy.for} ${copy.delivery} ${copy.class} ${copy.group}`;

const sameMembers = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((one) => b.includes(one));

const isShared = ({ standing, student, delivery }: StandingCopy) =>
  standing === 'current' && student === null && delivery !== 'to read';
const isTheirs = ({ members }: StandingCopy, { student }: PlannedCopy) =>
  student !== null && members.includes(student);

const rank = { current: 0, kept: 1, withdrawn: 2 } as const;

/**
 * @param standing every copy of the assignment
 * @param wanted those a plan wants
 * @param present the students now in its classes: copies of others stay as they are
 * @param begin what new own copies begin as where their student shared a page: that page as it stands, or the original
 */
export function planChange(
  standing: readonly StandingCopy[],
  wanted: readonly PlannedCopy[],
  present: ReadonlySet<string>,
  begin: 'shared page' | 'original' = 'original',
): CopyChange {
  const change: CopyChange = { make: [], back: [], keep: [], withdraw: [], members: [], move: [] };
  if (standing.length === 0) return { ...change, make: [...wanted] };
  const ids = new Set(standing.map(({ id }) => id));
  const byKey = new Map<string, StandingCopy[]>();
  for (const copy of standing) byKey.set(keyOf(copy), [...(byKey.get(keyOf(copy)) ?? []), copy]);
  const used = new Set<string>();
  for (const want of wanted) {
    const isOwn = want.student !== null && want.delivery === 'one each' && want.source === want.for;
    const shared =
      begin === 'shared page' && isOwn
        ? standing.find((copy) => isShared(copy) && copy.for === want.for && isTheirs(copy, want))
        : undefined;
    const found = (byKey.get(keyOf(want)) ?? [])
      .filter((copy) => copy.source === want.source || ids.has(copy.source))
      // What begins as the shared page is new: an earlier page of theirs is not that.
      .filter((copy) => !shared || copy.standing === 'current')
      .sort((a, b) => rank[a.standing] - rank[b.standing])[0];
    if (!found) {
      change.make.push({ ...want, from: shared?.id ?? null });
      continue;
    }
    used.add(found.id);
    if (found.standing !== 'current') change.back.push(found);
    if (found.student === null && !sameMembers(found.members, want.members))
      change.members.push({ copy: found, members: want.members });
    if (found.class !== want.class) change.move.push({ copy: found, class: want.class });
  }
  const audience = new Set(wanted.flatMap(({ members }) => members));
  for (const copy of standing) {
    if (used.has(copy.id)) continue;
    const concerned = copy.members.some((id) => present.has(id)) || copy.members.length === 0;
    if (!concerned) continue;
    const readers = copy.members.filter((id) => audience.has(id));
    const keeps = copy.begun && readers.length > 0;
    if (keeps && copy.standing !== 'kept') change.keep.push(copy);
    if (!keeps && copy.standing !== 'withdrawn') change.withdraw.push(copy);
  }
  return change;
}

export const isNothing = (change: CopyChange): boolean =>
  Object.values(change).every((list) => list.length === 0);

const people = (copies: readonly PlannedCopy[]) =>
  new Set(copies.flatMap(({ members }) => members)).size;

/** What a change does to the copies. */
export function copyFacts(change: CopyChange): ChangeFact[] {
  const { make, back, keep, withdraw, members, move } = change;
  const facts: ChangeFact[] = [];
  for (const delivery of DELIVERIES) {
    const made = make.filter((one) => one.delivery === delivery);
    const fromShared = made.filter((one) => one.from).length;
    if (made.length > 0)
      facts.push({
        kind: 'made',
        delivery,
        pages: made.length,
        students: people(made),
        fromShared,
      });
  }
  if (back.length > 0) facts.push({ kind: 'brought back', pages: back.length });
  if (keep.length > 0)
    facts.push({ kind: 'kept to read', pages: keep.length, students: people(keep) });
  if (withdraw.length > 0)
    facts.push({
      kind: 'out of sight',
      pages: withdraw.length,
      begun: withdraw.filter(({ begun }) => begun).length,
    });
  if (members.length > 0) facts.push({ kind: 'other members', pages: members.length });
  if (move.length > 0) facts.push({ kind: 'to another class', copies: move.length });
  return facts;
}
