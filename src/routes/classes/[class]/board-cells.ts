import type { CopyRow } from '$core/copy/copy-row';
import {
  type CopyFlags,
  asksForWork,
  factsFor,
  flagsOf,
  isWithTeacher,
  sayState,
  standsForEach,
  stateOf,
} from '$core/copy/state';
import { gradeRows, type GradeColumn } from '$core/grades/gradebook';
import type { GradeRules } from '$core/grades/rules';
import { sayShare, sayTotal } from '$core/grades/say-grades';
import type { Gap } from '$core/headcount/gap';
import { writePoints } from '$core/marking/points';

/** A copy as its cells show it to staff. @param student whose cell it is, of one that stands for each of its students */
export function cellOf(copy: CopyRow, student: string, now: number) {
  const own = factsFor(copy, student);
  const [state, flags] = [stateOf(own), flagsOf(own, now)];
  // Of those who share it, this one says so; it is not with the teacher yet.
  const isDone = isWithTeacher(state) && !isWithTeacher(stateOf(copy.facts));
  return { ...copy, own, state, flags, says: isDone ? 'done' : sayState(state, flags, copy.mask) };
}
export type BoardCell = ReturnType<typeof cellOf>;

type OwnCell = readonly [student: string, BoardCell];
/** The cells of a copy as they were made last. A row that does not change is the same object. */
const made = new WeakMap<CopyRow, readonly OwnCell[]>();
const sameFlags = (one: CopyFlags, other: CopyFlags): boolean =>
  Object.entries(one).every(([flag, is]) => other[flag as keyof CopyFlags] === is);

/** While a copy's row is the same, and so are its flags, its cells are: nothing draws them anew. */
function keptCells(copy: CopyRow, now: number): readonly OwnCell[] {
  const kept = made.get(copy);
  if (kept?.every(([, { own, flags }]) => sameFlags(flags, flagsOf(own, now)))) return kept;
  const cells = cellsOf(copy, now);
  made.set(copy, cells);
  return cells;
}

/** The cells of a copy, by its students: what is written together is one thing; the others stand for each alone. */
function cellsOf(copy: CopyRow, now: number): OwnCell[] {
  const [first = ''] = copy.members;
  const shared = cellOf(copy, first, now);
  return copy.members.map((student) => [
    student,
    standsForEach(copy) ? cellOf(copy, student, now) : shared,
  ]);
}

/** Where a column is: the assignment, and the original its copies stand for. */
export const columnKey = ({ id, for: page }: { id: string; for: string }): string =>
  `${id} ${page}`;
export const cellKey = (student: string, column: { id: string; for: string }): string =>
  `${student} ${columnKey(column)}`;

type ByCell<T> = ReadonlyMap<string, T>;

export const cellsByKey = (copies: readonly CopyRow[], now: number): ByCell<BoardCell> =>
  new Map(
    copies.flatMap((copy) =>
      keptCells(copy, now).map(([student, cell]) => [
        cellKey(student, { id: copy.assignment, for: copy.for }),
        cell,
      ]),
    ),
  );

export const gapsByKey = (gaps: readonly Gap[]): ByCell<Gap> =>
  new Map(
    gaps.flatMap((gap) =>
      gap.students.map((student) => [cellKey(student, { id: gap.assignment, for: gap.for }), gap]),
    ),
  );

/** What several share, once. */
export const eachOnce = (cells: ByCell<BoardCell>): BoardCell[] => [...new Set(cells.values())];

/** A student's total: of a hundred, as a grade where the class has a scale, and how it comes about. */
interface Total {
  total: string;
  grade: string;
  says: string;
}

/** The totals of students, by their ids, as the gradebook has them; none where nothing counts yet. */
export function totalsOf(
  grades: { columns: readonly GradeColumn[]; rules: GradeRules },
  copies: readonly CopyRow[],
  students: readonly { id: string }[],
  now: number,
): ReadonlyMap<string, Total> {
  const ids = students.map(({ id }) => id);
  return new Map(
    [...gradeRows(grades, copies, ids, now)].flatMap(([student, { line }]): [string, Total][] => {
      const says = sayTotal(grades.rules, line);
      if (line.total === null || says === null) return [];
      const total = sayShare(line.total, grades.rules.places);
      return [[student, { total, grade: line.grade ?? '', says }]];
    }),
  );
}

/** How a column stands, as stretches of a line: done, handed in, begun. Shares of a hundred. */
export function stretchesOf(cells: readonly BoardCell[]): { color: string; share: number }[] {
  const share = (test: (cell: BoardCell) => boolean) =>
    (cells.filter(test).length / (cells.length || 1)) * 100;
  return [
    {
      color: 'var(--spruce)',
      share: share(({ state, delivery }) =>
        delivery === 'to read' ? state === 'opened' : ['marked', 'handed back'].includes(state),
      ),
    },
    { color: 'var(--ink)', share: share(({ state }) => state === 'handed in') },
    {
      color: 'var(--ice)',
      share: share(({ state }) => ['working', 'attached', 'revising'].includes(state)),
    },
  ];
}

/** The second line of a cell: how far an overdue one is, its points, or when something happened. */
export function secondLine(cell: BoardCell, sayWhen: (at: number) => string): string {
  if (cell.flags.overdue && cell.mask.includes('1'))
    return `${cell.mask.replaceAll('0', '').length} of ${cell.mask.length}`;
  if (cell.state === 'handed back')
    return cell.points === null ? '' : `${writePoints(cell.points)} points`;
  const at = isWithTeacher(cell.state) ? cell.own.handedIn : cell.own.written;
  return at === null ? '' : sayWhen(at);
}

/** All that a cell says, for whoever does not see its marks. */
export const fullLabel = (student: string, title: string, cell: BoardCell): string =>
  [
    `${student}, ${title}: ${cell.says}`,
    cell.points && cell.state !== 'handed in' && `${writePoints(cell.points)} points`,
    cell.student === null && asksForWork(cell) && `shared by ${cell.members.length}`,
    cell.flags.late && 'late',
    cell.flags.extension && 'with an extension',
    cell.flags.unread && 'changed since you looked',
    cell.flags.now && 'writing now',
  ]
    .filter(Boolean)
    .join(', ');
