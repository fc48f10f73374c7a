import { Decimal } from 'decimal.js';
import type { GradeColumn, GradeRow } from '../grades/gradebook';
import { percentOf } from '../grades/say-grades';
import type { GradeRules } from '../grades/rules';

/** A number as programs read it, with a point: "7.5". */
const plain = (points: string) => new Decimal(points).toString();

/**
 * The gradebook as a table: a student in each row, an assignment in each column; below its title stand its category and
 * what it counts for. Only what was handed back is in it.
 */
export function rowsFromGradebook(
  { columns, rules }: { columns: readonly GradeColumn[]; rules: GradeRules },
  students: readonly { id: string; family: string; given: string }[],
  rows: ReadonlyMap<string, GradeRow>,
): string[][] {
  const hasTotal = rules.total !== 'none';
  const hasGrade = hasTotal && rules.scale.length > 0;
  const last = [...(hasTotal ? ['Total, percent'] : []), ...(hasGrade ? ['Grade'] : [])];
  const blank = last.map(() => '');
  return [
    ['Family name', 'Given name', ...columns.map(({ title }) => title), ...last],
    ['', 'Category', ...columns.map(({ category }) => category), ...blank],
    ['', 'Points', ...columns.map(({ most }) => plain(most)), ...blank],
    ...students.map(({ id, family, given }) => {
      const row = rows.get(id);
      const cells = columns.map((_, index) => {
        const got = row?.cells[index]?.got;
        if (typeof got === 'object') return plain(got.points);
        if (got === 'missing') return rules.missing === 'zero' ? '0' : 'missing';
        return got === 'excused' ? 'excused' : '';
      });
      const total = row?.line.total ?? null;
      return [
        family,
        given,
        ...cells,
        ...(hasTotal ? [total === null ? '' : percentOf(total, rules.places)] : []),
        ...(hasGrade ? [row?.line.grade ?? ''] : []),
      ];
    }),
  ];
}
