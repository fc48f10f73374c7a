import type { RubricTable } from '../marking/rubric';

export interface CellFault {
  /** As spreadsheets name it: "B1". */
  cell: string;
  says: string;
}

export type RubricRead = { table: RubricTable } | { faults: CellFault[] };

/** "A" for 0, "Z" for 25, "AA" for 26. */
function columnName(index: number): string {
  const letter = String.fromCharCode(65 + (index % 26));
  return index < 26 ? letter : columnName(Math.floor(index / 26) - 1) + letter;
}

const cellName = (row: number, column: number) => `${columnName(column)}${row + 1}`;

/**
 * A rubric from a table: whole points in the first row, criteria in the first column, a descriptor in each cell between
 * (the corner says nothing).
 * @param newId makes the id of a criterion
 * @returns the rubric, or every fault with its cell
 */
export function rubricFromRows(
  rows: readonly (readonly string[])[],
  newId: () => string,
): RubricRead {
  const faults: CellFault[] = [];
  const fault = (row: number, column: number, says: string) =>
    void faults.push({ cell: cellName(row, column), says });
  const head = rows[0] ?? [];
  const width = head.findLastIndex((cell) => cell.trim() !== '') + 1;
  if (width < 2) {
    fault(0, 1, 'the first row holds the whole points of each level, from the second column on');
    return { faults };
  }
  const levels: number[] = [];
  for (let column = 1; column < width; column++) {
    const text = (head[column] ?? '').trim();
    const points = Number(text);
    if (text === '') fault(0, column, 'the points of this level are missing');
    else if (!/^\d{1,4}$/.test(text))
      fault(0, column, `“${text.slice(0, 40)}” is not a whole number of points`);
    else if (points > 1000) fault(0, column, 'a level has at most 1000 points');
    else if (levels.includes(points))
      fault(0, column, `another level has ${points} points already`);
    levels.push(points);
  }
  if (levels.length > 12) fault(0, 13, 'a rubric has at most 12 levels');
  const criteria: RubricTable['criteria'] = [];
  for (const [row, cells] of rows.entries()) {
    if (row === 0 || cells.every((cell) => cell.trim() === '')) continue;
    const title = (cells[0] ?? '').trim();
    if (title === '') fault(row, 0, 'the criterion has no name');
    else if (title.length > 200)
      fault(row, 0, 'the name of a criterion has at most 200 characters');
    for (let column = width; column < cells.length; column++)
      if (cells[column]?.trim()) fault(row, column, 'no level stands above this text');
    const descriptors = levels.map((_, level) => (cells[level + 1] ?? '').trim());
    for (const [level, text] of descriptors.entries())
      if (text.length > 2000) fault(row, level + 1, 'a descriptor has at most 2000 characters');
    criteria.push({ id: newId(), title, descriptors });
  }
  if (criteria.length === 0) fault(1, 0, 'there is no criterion below the first row');
  if (criteria.length > 40) fault(41, 0, 'a rubric has at most 40 criteria');
  return faults.length > 0 ? { faults } : { table: { levels, criteria } };
}

/** The same table written out; reading it gives the same rubric, but for the ids of its criteria. */
export const rowsFromRubric = ({ levels, criteria }: RubricTable): string[][] => [
  ['', ...levels.map(String)],
  ...criteria.map(({ title, descriptors }) => [title, ...descriptors]),
];
