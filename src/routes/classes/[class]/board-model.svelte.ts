import { arrangeStudents, isFinished, isLookedFor } from '$core/board/arrange';
import type { CopyRow } from '$core/copy/copy-row';
import { canBeReminded } from '$core/copy/state';
import type { Gap } from '$core/headcount/gap';
import { gapsNow } from '$core/headcount/headcount';
import { grouped } from '$core/lists/grouped';
import type { CellToRemind } from '$ui/remind/cell-to-remind';
import {
  cellKey,
  cellsByKey,
  columnKey,
  eachOnce,
  gapsByKey,
  totalsOf,
  type BoardCell,
} from './board-cells';
import type { ViewInAddress } from './board-view.svelte';
import type { PageData } from './$types';

export type Column = PageData['board']['assignments'][number];
type Student = PageData['board']['students'][number];

/** The table as it is shown: which students, which columns, and what stands where they meet. */
export class BoardModel {
  /** @param data what was read of the class @param rows its copies as they stand now @param clock what time it is */
  constructor(
    private readonly data: () => PageData,
    private readonly rows: () => readonly CopyRow[],
    private readonly clock: { readonly now: number },
    private readonly view: ViewInAddress,
    private readonly elsewhere: { readonly now: readonly Gap[] },
  ) {}

  private readonly board = $derived.by(() => this.data().board);

  readonly cells = $derived.by(() => cellsByKey(this.rows(), this.clock.now));
  readonly all = $derived(eachOnce(this.cells));
  readonly gaps = $derived.by(() =>
    gapsNow(this.data().counts, this.rows(), this.elsewhere.now, this.clock.now),
  );
  readonly gapAt = $derived(gapsByKey(this.gaps));
  /** The gaps of the unit and the group that are looked at; those who left are of none. */
  readonly gapsInSight: readonly Gap[] = $derived.by(() => {
    const { unit, group } = this.view.now;
    const isInUnit = (id: string) => this.inUnit.some((column) => column.id === id);
    const isHere = (id: string) => this.students.some((student) => student.id === id);
    return this.gaps.filter(
      (gap) =>
        (unit === '' || isInUnit(gap.assignment)) && (group === '' || gap.students.some(isHere)),
    );
  });

  cellAt = (student: string, column: Column): BoardCell | null => {
    const cell = this.cells.get(cellKey(student, column)) ?? null;
    return cell && isLookedFor(this.view.now, cell) ? cell : null;
  };
  /** A gap is shown among all work; one that is attached stands as what it is. */
  gapIn = (student: string, column: Column): Gap | null => {
    const { lens, marks } = this.view.now;
    const gap = this.gapAt.get(cellKey(student, column)) ?? null;
    return lens === 'work' && marks.length === 0 && gap?.cause !== 'attached' ? gap : null;
  };

  /** Whether something of a student stands in a column that this view is about. */
  private isAbout(student: string, column: Column): boolean {
    const { marks } = this.view.now;
    return marks.length === 0 || this.cellAt(student, column) !== null;
  }

  private readonly inUnit: readonly Column[] = $derived.by(() => {
    const { unit } = this.view.now;
    const isKnown = unit === 'none' || this.board.units.some(({ id }) => id === unit);
    return this.board.assignments.filter((column) => !isKnown || (column.unit ?? 'none') === unit);
  });

  readonly students: readonly Student[] = $derived.by(() =>
    arrangeStudents(this.board.students, this.view.now, this.data().groupings, (student) =>
      this.inUnit.flatMap((column) => this.cells.get(cellKey(student, column)) ?? []),
    ).filter(({ id }) => this.inUnit.some((column) => this.isAbout(id, column)) || !this.isNarrow),
  );

  /** Whether only some of the cells are shown. */
  private get isNarrow(): boolean {
    return this.view.now.marks.length > 0;
  }

  /** Units in order, each with its columns; what has no unit comes last. */
  readonly units = $derived.by(() =>
    [...this.board.units, { id: null, title: 'No unit' }]
      .map((unit) => ({
        ...unit,
        columns: this.inUnit.filter(
          (column) =>
            column.unit === unit.id &&
            (!this.isNarrow || this.students.some(({ id }) => this.isAbout(id, column))),
        ),
      }))
      .filter((unit) => unit.columns.length > 0),
  );
  readonly columns: readonly Column[] = $derived(this.units.flatMap((unit) => unit.columns));

  private readonly finished: readonly string[] = $derived.by(() =>
    this.board.assignments
      .filter((column) => column.delivery !== 'to read' && isFinished(this.cellsIn(column)))
      .map(columnKey),
  );
  isFinished = (column: Column): boolean => this.finished.includes(columnKey(column));
  /** A finished column is its rosettes alone, until somebody wants to see it. */
  isFolded = (column: Column): boolean =>
    this.view.now.lens === 'work' &&
    !this.isNarrow &&
    this.isFinished(column) &&
    !this.view.now.open.includes(columnKey(column));

  private readonly inColumns = $derived(
    grouped(this.all, (cell) => columnKey({ id: cell.assignment, for: cell.for })),
  );
  cellsIn = (column: Column): readonly BoardCell[] => this.inColumns.get(columnKey(column)) ?? [];

  /** Those in sight whose students can be reminded. */
  readonly toRemind: readonly CellToRemind[] = $derived.by(() =>
    this.students.flatMap((student) =>
      this.columns.flatMap((column) => {
        const cell = this.cellAt(student.id, column);
        return cell ? this.reminderOf(student, cell) : [];
      }),
    ),
  );
  reminderOf(student: Student, cell: BoardCell): CellToRemind[] {
    if (!canBeReminded(cell, cell.own)) return [];
    const { title = '' } = this.board.assignments.find(({ id }) => id === cell.assignment) ?? {};
    const name = `${student.given} ${student.family}`;
    const { id: copy, class: klass, assignment } = cell;
    return [{ class: klass, copy, student: student.id, name, assignment, title }];
  }

  readonly totals = $derived.by(() => {
    const { grades, board } = this.data();
    const copies = [...this.rows(), ...board.replaced];
    return totalsOf(grades, copies, board.students, this.clock.now);
  });
}
