import { grouped } from '../lists/grouped';
import { listed } from '../lists/listed';
import { flagsOf, stateOf } from '../copy/state';
import { gapsOfCopy } from '../headcount/causes';
import {
  COMING_WITHIN,
  NUDGE_AFTER,
  NUDGE_BEFORE,
  type DeskAssignment,
  type DeskClass,
  type DeskCopy,
  type DeskDraft,
  type DeskLine,
  type DeskPlace,
  type DeskView,
  type Lacking,
} from './desk-view';
import { byUrgency } from './urgency';

const oldestFirst = (a: number | null, b: number | null) => (a ?? Infinity) - (b ?? Infinity);
const place = (of: DeskClass, since: number | null, count = 0): DeskPlace => ({
  class: of,
  count,
  since,
  copy: null,
});

/** What is handed in and waits for an answer; of `marked` copies the handing back is left to the marking view. */
function answerLine({ id, title, class: of }: DeskAssignment, copies: readonly DeskCopy[]) {
  const [first, ...others] = copies
    .filter(({ facts }) => stateOf(facts) === 'handed in')
    .sort((a, b) => oldestFirst(a.facts.handedIn, b.facts.handedIn));
  if (!first) return [];
  const { mask, facts } = first;
  const waits = {
    ...place(of, facts.handedIn, others.length + 1),
    copy: { id: first.id, mask },
  };
  return [{ kind: 'answer' as const, id, title, places: [waits] }];
}

/** What copies tell of their gaps, a line for each cause. */
function gapLines(
  { id, title, class: of }: DeskAssignment,
  copies: readonly DeskCopy[],
  names: DeskView['names'],
  now: number,
): DeskLine[] {
  const gaps = copies.flatMap((copy) => gapsOfCopy(copy, now).map((gap) => ({ copy, gap })));
  return [...grouped(gaps, ({ gap }) => gap.cause)].flatMap(([cause, some]): DeskLine[] => {
    const [first] = some.sort((one, other) => oldestFirst(one.gap.since, other.gap.since));
    if (!first) return [];
    const { mask } = first.copy;
    const who =
      some.length === 1 ? listed(first.copy.members.map((one) => names[one] ?? '')) : null;
    return [
      {
        kind: 'gap',
        id: `${id} ${cause}`,
        title,
        who,
        cause,
        assignment: id,
        places: [{ ...place(of, first.gap.since, some.length), copy: { id: first.copy.id, mask } }],
      },
    ];
  });
}

/** Copies that nobody has begun though they are due soon, or were just now; each by its own due time. */
function isIdle({ facts }: DeskCopy, now: number): boolean {
  const { due, allowance } = facts;
  const begun = !['unopened', 'opened'].includes(stateOf(facts));
  if (begun || allowance === 'excused' || due === null) return false;
  return due - now < NUDGE_BEFORE && now - due < NUDGE_AFTER;
}

function nudgeLine(
  { id, title, class: of, due }: DeskAssignment,
  copies: readonly DeskCopy[],
  now: number,
) {
  const idle = copies.filter((copy) => isIdle(copy, now));
  const [first] = idle;
  if (!first) return [];
  const cells = idle.flatMap((copy) =>
    copy.members.map((student) => ({ copy: copy.id, student, assignment: id, class: of.id })),
  );
  const count = new Set(cells.map(({ student }) => student)).size;
  const { mask, facts } = first;
  return [
    {
      kind: 'nudge' as const,
      id,
      title,
      overdue: idle.some(({ facts }) => flagsOf(facts, now).overdue),
      idle: cells,
      places: [{ ...place(of, due ?? facts.due, count), copy: { id: first.id, mask } }],
    },
  ];
}

/** One line for an assignment, in however many classes. */
function joined(lines: readonly DeskLine[]): DeskLine[] {
  const byThing = grouped(lines, ({ kind, id }) => `${kind} ${id}`);
  return [...byThing.values()].flatMap((same): DeskLine[] => {
    const [line] = same;
    if (!line) return [];
    const places = same.flatMap((one) => one.places).sort((a, b) => oldestFirst(a.since, b.since));
    const all = { ...line, places };
    if (all.kind === 'gap' && same.length > 1) return [{ ...all, who: null }];
    if (all.kind !== 'nudge') return [all];
    const nudges = same.filter((one) => one.kind === 'nudge');
    return [
      {
        ...all,
        overdue: nudges.some(({ overdue }) => overdue),
        idle: nudges.flatMap(({ idle }) => idle),
      },
    ];
  });
}

/** What students asked in the margin, of all classes in one line. */
function questionLine(
  questions: DeskView['questions'],
  classes: ReadonlyMap<string, DeskClass>,
): DeskLine[] {
  const asked = [...questions].sort((a, b) => a.at - b.at);
  const places = [...grouped(asked, (one) => one.class)].flatMap(([id, some]) => {
    const of = classes.get(id);
    return of ? [place(of, some[0]?.at ?? null, some.length)] : [];
  });
  return places.length > 0 ? [{ kind: 'questions', id: '', title: '', asked, places }] : [];
}

/** So many people are named in a line. */
const MOST_NAMES = 3;

function lackingLine(
  of: DeskClass,
  lacking: readonly Lacking[],
  names: DeskView['names'],
): DeskLine {
  const students = [...new Set(lacking.map(({ student }) => student))];
  const since = lacking.map((one) => one.since).sort(oldestFirst)[0] ?? null;
  return {
    kind: 'lacking',
    id: of.id,
    title:
      students.length > MOST_NAMES
        ? `${students.length} students`
        : listed(students.map((one) => names[one] ?? '')),
    lacking,
    assignments: new Set(lacking.map(({ assignment }) => assignment)).size,
    places: [place(of, since, students.length)],
  };
}

/** So many drafts have a line of their own. */
const MOST_DRAFTS = 3;

function draftLines(drafts: readonly DeskDraft[]): DeskLine[] {
  const resting = drafts.filter(({ goesOut, fault }) => goesOut === null && fault === null);
  const together = resting.length > MOST_DRAFTS ? resting : [];
  const byClass = [...grouped(together, ({ class: { id } }) => id).values()];
  const places = byClass.flatMap((some) =>
    some[0] ? [place(some[0].class, null, some.length)] : [],
  );
  const alone = drafts.filter((draft) => !together.includes(draft));
  return [
    ...alone.map(({ id, title, class: of, goesOut, fault }): DeskLine => ({
      kind: 'draft',
      id,
      title,
      fault,
      places: [place(of, goesOut)],
    })),
    ...(places.length > 0 ? [{ kind: 'drafts' as const, id: '', title: '', places }] : []),
  ];
}

/**
 * What needs a teacher's hand, one line for an assignment in however many classes: first what waits for an answer, then
 * which gaps to mend, then whom to nudge, then what is coming; among these the most urgent first.
 * @param now epoch milliseconds
 */
export function deskLines(view: DeskView, now: number): DeskLine[] {
  const { assignments, copies, names } = view;
  const copiesOf = grouped(copies, (copy) => `${copy.assignment} ${copy.class}`);
  /** Nobody is nudged about what they do not see. */
  const isClosed = new Set(view.closed.map(({ class: { id } }) => id));
  const isSoon = (due: number | null) => due !== null && due > now && due - now < COMING_WITHIN;
  const ofAssignments = assignments.flatMap((assignment): DeskLine[] => {
    const { id, title, class: of, due } = assignment;
    const theirs = copiesOf.get(`${id} ${of.id}`) ?? [];
    const answer = answerLine(assignment, theirs);
    if (!of.leads) return answer;
    return [
      ...answer,
      ...gapLines(assignment, theirs, names, now),
      ...(isClosed.has(of.id) ? [] : nudgeLine(assignment, theirs, now)),
      ...(isSoon(due) ? [{ kind: 'due' as const, id, title, places: [place(of, due)] }] : []),
    ];
  });
  const classes = new Map(view.classes.map((one) => [one.id, one]));
  const leadsIn = (id: string) => {
    const of = classes.get(id);
    return of?.leads ? [of] : [];
  };
  const lacking = [...grouped(view.lacking, (one) => one.class)].flatMap(([id, theirs]) =>
    leadsIn(id).map((of) => lackingLine(of, theirs, names)),
  );
  const stuck = view.stuck.flatMap((one) =>
    leadsIn(one.class).map((of): DeskLine => ({
      kind: 'stuck',
      id: `${one.copy} ${one.part.id}`,
      title: one.title,
      stuck: one,
      places: [{ ...place(of, one.at, 1), copy: { id: one.copy, mask: one.mask } }],
    })),
  );
  const closed = view.closed.map(({ class: of, opens }): DeskLine => ({
    kind: 'opens',
    id: of.id,
    title: `${of.name} ${of.title}`,
    places: [place(of, opens)],
  }));
  const office = view.office.flatMap((difference) =>
    leadsIn(difference.class).map((of): DeskLine => ({
      kind: 'office',
      id: of.id,
      title: of.name,
      difference,
      places: [place(of, null)],
    })),
  );
  return byUrgency([
    ...joined(ofAssignments),
    ...questionLine(view.questions, classes),
    ...lacking,
    ...stuck,
    ...draftLines(view.drafts),
    ...closed,
    ...office,
  ]);
}
