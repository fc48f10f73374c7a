import type { CopyRow } from '../copy/copy-row';
import { asksForWork, factsFor, flagsOf, isWithTeacher, stateOf } from '../copy/state';
import { gradeLine, type Counting, type GradedWork, type GradeLine } from './grade-line';
import type { GradeRules } from './rules';

/** A column of the gradebook: a page of an assignment that counts points, as on the board. */
export interface GradeColumn {
  assignment: string;
  /** The original its copies stand for. */
  for: string;
  title: string;
  category: string;
  /** What it counts for: a decimal text. */
  most: string;
  counting: Counting;
  /** Whether it is scored by a rubric. */
  byRubric: boolean;
  due: number | null;
}
export const columnKey = (column: Pick<GradeColumn, 'assignment' | 'for'>): string =>
  `${column.assignment} ${column.for}`;

/** One student's cell. */
export interface GradeCell {
  copy: CopyRow | null;
  /** As it counts: by what was handed back. */
  got: GradedWork['got'];
  /** Points that are kept back: a decimal text. */
  kept: string | null;
  /** In a word, where there are no points to show. */
  says: '' | 'excused' | 'missing' | 'to mark' | 'no copy';
}

/** How a student's copy stands in the gradebook. Excused work counts nowhere, whatever points it has. @param now epoch milliseconds */
export function gradeCell(copy: CopyRow | null, student: string, now: number): GradeCell {
  if (!copy) return { copy, got: 'open', kept: null, says: 'no copy' };
  const flags = flagsOf(factsFor(copy, student), now);
  const kept =
    copy.points !== null && copy.points !== copy.pointsBack && copy.score !== null
      ? copy.points
      : null;
  if (flags.excused) return { copy, got: 'excused', kept, says: 'excused' };
  if (copy.pointsBack !== null) return { copy, got: { points: copy.pointsBack }, kept, says: '' };
  if (flags.overdue) return { copy, got: 'missing', kept, says: 'missing' };
  return { copy, got: 'open', kept, says: isWithTeacher(stateOf(copy.facts)) ? 'to mark' : '' };
}

/** A student's row. */
export interface GradeRow {
  /** In the order of the columns. */
  cells: GradeCell[];
  line: GradeLine;
}

/** The gradebook of a class: for each student a row. @param now epoch milliseconds */
export function gradeRows(
  { columns, rules }: { columns: readonly GradeColumn[]; rules: GradeRules },
  copies: readonly CopyRow[],
  students: readonly string[],
  now: number,
): Map<string, GradeRow> {
  const byStudent = new Map<string, Map<string, CopyRow>>();
  const current = copies.filter(asksForWork);
  // What was replaced counts with the points it came back with, until its student has others for what they have now.
  const replaced = copies.filter((copy) => copy.replaced && copy.pointsBack !== null);
  for (const copy of [...current, ...replaced])
    for (const student of copy.members) {
      const own = byStudent.get(student) ?? new Map<string, CopyRow>();
      const known = own.get(columnKey(copy));
      if (!known || (copy.replaced && known.points === null)) own.set(columnKey(copy), copy);
      byStudent.set(student, own);
    }
  return new Map(
    students.map((student) => {
      const own = byStudent.get(student);
      const cells = columns.map((column) =>
        gradeCell(own?.get(columnKey(column)) ?? null, student, now),
      );
      const work = columns.map((column, index): GradedWork => ({
        id: columnKey(column),
        title: column.title,
        category: column.category,
        most: column.most,
        counting: column.counting,
        got: cells[index]?.got ?? 'open',
      }));
      return [student, { cells, line: gradeLine(rules, work) }];
    }),
  );
}
