import { grouped } from '../lists/grouped';
import { listed } from '../lists/listed';
import { openLoss } from '../copy/copy-row';
import type { Loss } from '../headcount/level';
import { flagsOf, stateOf, type CopyFacts } from '../copy/state';

const DAY = 86_400_000;
/** Students who have not begun are named from so long before it is due, until so long after; then they are a gap. */
const NUDGE_BEFORE = 7 * DAY;
const NUDGE_AFTER = 14 * DAY;
/** So far ahead the desk looks. */
const COMING_WITHIN = 14 * DAY;

/** Copies that are not begun matter to the desk when they are due within this time; handed-in ones always. */
export const DESK_SPAN = { before: NUDGE_AFTER, after: Math.max(NUDGE_BEFORE, COMING_WITHIN) };

export interface DeskClass {
  id: string;
  /** "8C" */
  name: string;
  /** The title of its course. */
  title: string;
}

/** An assignment in one class. Instants in epoch milliseconds. */
export interface DeskAssignment {
  id: string;
  title: string;
  class: DeskClass;
  due: number | null;
}

/** A copy that asks for work. */
interface DeskCopy {
  id: string;
  assignment: string;
  class: string;
  mask: string;
  members: readonly string[];
  facts: CopyFacts;
  loss: Loss | null;
  lossAccepted: number | null;
}

/** What the desk's lines are made of. */
export interface DeskView {
  assignments: readonly DeskAssignment[];
  copies: readonly DeskCopy[];
  drafts: readonly DeskDraft[];
  /** Who lacks a copy that should be there: of several in one page each. */
  lacking: readonly { assignment: string; class: string; student: string; since: number | null }[];
  /** Of those whose copies lost their work, and of those who lack one. */
  names: Readonly<Record<string, string>>;
}

export interface DeskDraft {
  id: string;
  title: string;
  class: DeskClass;
  /** Null for one that somebody finishes. */
  goesOut: number | null;
  fault: string | null;
}

/** What a line says of one of its classes. `since`: when it began to wait, or is due. */
export interface DeskPlace {
  class: DeskClass;
  /** Copies that wait, gaps, or students who have not begun; of what is coming nothing is counted. */
  count: number;
  since: number | null;
  /** The copy that waits longest, or one that is not begun. */
  copy: { id: string; mask: string } | null;
}

/** One thing that needs a teacher's hand: an assignment in one class or several, or a draft. */
export type DeskLine = { id: string; title: string; places: readonly DeskPlace[] } & (
  | { kind: 'answer' }
  /** `who`: the one whose copy it is; null for several. */
  | { kind: 'emptied'; who: string | null }
  /** Its `title` says who lacks copies, of so many assignments. */
  | { kind: 'lacking'; assignments: number }
  | { kind: 'nudge'; overdue: boolean }
  | { kind: 'due' }
  | { kind: 'draft'; fault: string | null }
  /** Several that wait for nothing but somebody to finish them. */
  | { kind: 'drafts' }
);

const oldestFirst = (a: number | null, b: number | null) => (a ?? Infinity) - (b ?? Infinity);

/** What is handed in and waits for an answer; of `marked` copies the handing back is left to the marking view. */
function waiting(klass: DeskClass, copies: readonly DeskCopy[]): DeskPlace[] {
  const [first, ...others] = copies
    .filter(({ facts }) => stateOf(facts) === 'handed in')
    .sort((a, b) => oldestFirst(a.facts.handedIn, b.facts.handedIn));
  if (!first) return [];
  const { id, mask, facts } = first;
  return [{ class: klass, count: others.length + 1, since: facts.handedIn, copy: { id, mask } }];
}

/** Copies that nobody has begun though they are due soon, or were just now; each by its own due time. */
function notBegun(copies: readonly DeskCopy[], now: number) {
  return copies.filter(({ facts }) => {
    const { due, allowance } = facts;
    const begun = !['unopened', 'opened'].includes(stateOf(facts));
    if (begun || allowance === 'excused' || due === null) return false;
    return due - now < NUDGE_BEFORE && now - due < NUDGE_AFTER;
  });
}

/** So many drafts have a line of their own. */
const MOST_DRAFTS = 3;
/** So many people are named in a line. */
const MOST_NAMES = 3;

function lackingLine(
  klass: DeskClass,
  lacking: DeskView['lacking'],
  names: DeskView['names'],
): DeskLine {
  const students = [...new Set(lacking.map(({ student }) => student))];
  const since = lacking.map((one) => one.since).sort(oldestFirst)[0] ?? null;
  return {
    kind: 'lacking',
    id: klass.id,
    title:
      students.length > MOST_NAMES
        ? `${students.length} students`
        : listed(students.map((one) => names[one] ?? '')),
    assignments: new Set(lacking.map(({ assignment }) => assignment)).size,
    places: [{ class: klass, count: students.length, since, copy: null }],
  };
}

/**
 * What needs a teacher's hand, one line for an assignment in however many classes: first what waits for an answer, then
 * which gaps to mend, then whom to nudge, then what is coming; among these the oldest, or what is due first, before the others.
 * @param now epoch milliseconds
 */
export function deskLines(
  { assignments, copies, drafts, lacking, names }: DeskView,
  now: number,
): DeskLine[] {
  const copiesOf = grouped(copies, (copy) => `${copy.assignment} ${copy.class}`);
  const answer = new Map<string, DeskLine>();
  const mend = new Map<string, DeskLine>();
  const nudge = new Map<string, DeskLine>();
  const coming = new Map<string, DeskLine>();
  const add = (lines: Map<string, DeskLine>, line: DeskLine) => {
    const known = lines.get(line.id);
    const places = [...(known?.places ?? []), ...line.places];
    const both = line.kind === 'nudge' && known?.kind === 'nudge';
    lines.set(line.id, {
      ...line,
      ...(both ? { overdue: line.overdue || known.overdue } : {}),
      ...(line.kind === 'emptied' && known ? { who: null } : {}),
      places: places.sort((a, b) => oldestFirst(a.since, b.since)),
    });
  };
  for (const { id, title, class: klass, due } of assignments) {
    const theirs = copiesOf.get(`${id} ${klass.id}`) ?? [];
    const waits = waiting(klass, theirs);
    if (waits.length > 0) add(answer, { kind: 'answer', id, title, places: waits });
    const lost = theirs
      .filter((copy) => openLoss(copy))
      .sort((one, other) => (one.loss?.at ?? 0) - (other.loss?.at ?? 0));
    const [emptied] = lost;
    if (emptied)
      add(mend, {
        kind: 'emptied',
        id,
        title,
        who: lost.length === 1 ? listed(emptied.members.map((one) => names[one] ?? '')) : null,
        places: [
          { class: klass, count: lost.length, since: emptied.loss?.at ?? null, copy: emptied },
        ],
      });
    const idle = notBegun(theirs, now);
    const [first] = idle;
    if (first)
      add(nudge, {
        kind: 'nudge',
        id,
        title,
        overdue: idle.some(({ facts }) => flagsOf(facts, now).overdue),
        places: [
          {
            class: klass,
            count: new Set(idle.flatMap(({ members }) => members)).size,
            since: due ?? first.facts.due,
            copy: { id: first.id, mask: first.mask },
          },
        ],
      });
    if (due !== null && due > now && due - now < COMING_WITHIN)
      add(coming, {
        kind: 'due',
        id,
        title,
        places: [{ class: klass, count: 0, since: due, copy: null }],
      });
  }
  const classes = new Map(assignments.map(({ class: klass }) => [klass.id, klass]));
  for (const [id, theirs] of grouped(lacking, (one) => one.class)) {
    const klass = classes.get(id);
    if (klass) mend.set(id, lackingLine(klass, theirs, names));
  }
  const resting = drafts.filter(({ goesOut, fault }) => goesOut === null && fault === null);
  const together = resting.length > MOST_DRAFTS ? resting : [];
  for (const { class: klass } of together) {
    const places = coming.get('drafts')?.places ?? [];
    const here = places.find((place) => place.class.id === klass.id);
    const others = places.filter((place) => place !== here);
    const place = { class: klass, count: (here?.count ?? 0) + 1, since: null, copy: null };
    coming.set('drafts', { kind: 'drafts', id: 'drafts', title: '', places: [...others, place] });
  }
  for (const { id, title, class: klass, goesOut, fault } of drafts.filter(
    (draft) => !together.includes(draft),
  ))
    add(coming, {
      kind: 'draft',
      id,
      title,
      fault,
      places: [{ class: klass, count: 0, since: goesOut, copy: null }],
    });
  const since = ({ places }: DeskLine) => places[0]?.since ?? null;
  return [answer, mend, nudge, coming].flatMap((lines) =>
    [...lines.values()].sort((a, b) => oldestFirst(since(a), since(b))),
  );
}
