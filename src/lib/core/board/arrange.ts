import type { CopyFacts, CopyFlags, CopyState } from '../copy/state';
import { BY_BEGUN, BY_CHANGE, BY_NAME, groupKey, type BoardView } from './board-view';

/** A cell as far as it is chosen and put in order. */
export interface ArrangedCell {
  state: CopyState;
  flags: CopyFlags;
  mask: string;
  own: Pick<CopyFacts, 'written' | 'handedIn'>;
}

export interface Grouping {
  id: string;
  name: string;
  groups: readonly { name: string; members: readonly string[] }[];
}

/** Whether a cell is one of those that are looked for. */
export const isLookedFor = (
  { marks }: Pick<BoardView, 'marks'>,
  { state, flags }: Pick<ArrangedCell, 'state' | 'flags'>,
): boolean =>
  marks.length === 0 ||
  marks.some((mark) => (mark in flags ? flags[mark as keyof CopyFlags] : mark === state));

const doneParts = (cells: readonly ArrangedCell[]) =>
  cells.reduce((sum, { mask }) => sum + mask.replaceAll('0', '').length, 0);
const begun = (cells: readonly ArrangedCell[]) =>
  cells.filter(({ own }) => own.written !== null || own.handedIn !== null).length;
const lastChange = (cells: readonly ArrangedCell[]) =>
  Math.max(0, ...cells.map(({ own }) => Math.max(own.written ?? 0, own.handedIn ?? 0)));

/** The orders that a board's students can have: what the address says, and what somebody reads. */
export const ordersOf = (groupings: readonly Pick<Grouping, 'id' | 'name'>[]) => [
  { order: BY_NAME, says: 'by name' },
  { order: BY_BEGUN, says: 'least begun first' },
  { order: BY_CHANGE, says: 'longest without a change' },
  ...groupings.map(({ id, name }) => ({ order: id, says: `by ${name}` })),
];
export const sayOrder = (
  chosen: string,
  groupings: readonly Pick<Grouping, 'id' | 'name'>[],
): string => ordersOf(groupings).find(({ order }) => order === chosen)?.says ?? '';

/** By what students are put in order, smallest first: each next number where those before it are equal. */
function ranksIn(
  order: string,
  groupings: readonly Grouping[],
): (student: string, cells: readonly ArrangedCell[]) => readonly number[] {
  if (order === BY_BEGUN) return (_, cells) => [begun(cells), doneParts(cells)];
  if (order === BY_CHANGE) return (_, cells) => [lastChange(cells)];
  const grouping = groupings.find(({ id }) => id === order);
  const groupOf = (student: string) => {
    const index = grouping?.groups.findIndex(({ members }) => members.includes(student)) ?? -1;
    // Who is in none comes last.
    return index < 0 ? Infinity : index;
  };
  return (student) => [groupOf(student)];
}

/**
 * The students that a view shows, in its order; where it says the same of several, in the order in which they came.
 * @param cellsOf a student's cells in the columns that are shown
 */
export function arrangeStudents<S extends { id: string }>(
  students: readonly S[],
  view: Pick<BoardView, 'order' | 'group'>,
  groupings: readonly Grouping[],
  cellsOf: (student: string) => readonly ArrangedCell[],
): S[] {
  const chosen = groupings
    .flatMap(({ id, groups }) =>
      groups.map((group) => ({ ...group, key: groupKey(id, group.name) })),
    )
    .find(({ key }) => key === view.group);
  const shown = students.filter(({ id }) => !chosen || chosen.members.includes(id));
  if (view.order === BY_NAME) return shown;
  const rank = ranksIn(view.order, groupings);
  return shown
    .map((student) => ({ student, ranks: rank(student.id, cellsOf(student.id)) }))
    .sort((a, b) => {
      for (const [index, one] of a.ranks.entries()) {
        const other = b.ranks[index] ?? 0;
        if (one !== other) return one < other ? -1 : 1;
      }
      return 0;
    })
    .map(({ student }) => student);
}

/** A column is finished when nothing of it is with anybody any more: all is handed back, or need not come. */
export const isFinished = (cells: readonly Pick<ArrangedCell, 'state' | 'flags'>[]): boolean =>
  cells.length > 0 &&
  cells.every(({ state, flags }) => (state === 'handed back' || flags.excused) && !flags.unread);
