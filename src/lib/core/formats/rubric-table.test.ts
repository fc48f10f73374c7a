import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RubricTable } from '../marking/rubric';
import { totalOf } from '../marking/rubric-steps';
import { rowsFromRubric, rubricFromRows } from './rubric-table';

const ids = () => {
  let n = 0;
  return () => `c${++n}`;
};
const faultsOf = (rows: string[][]) => {
  const read = rubricFromRows(rows, ids());
  return 'faults' in read ? read.faults.map(({ cell }) => cell) : [];
};

/** A rubric of four criteria with the levels 5, 3, 2, 0: at most 20 points. Worked by hand; common practice, no source. */
const ROWS = [
  ['', '5', '3', '2', '0'],
  ['Truth', 'all', 'nearly', 'some', 'none'],
  ['Symbols', 'all', 'nearly', 'some', 'none'],
  ['Depths', 'four', 'three', 'two', 'none'],
  ['Words', 'reasons', 'some', 'says', ''],
];

const rubric = fc
  .uniqueArray(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 12 })
  .chain((levels) => {
    const words = fc.string({ unit: 'grapheme', maxLength: 30 }).map((text) => text.trim());
    return fc.record({
      levels: fc.constant(levels),
      criteria: fc.array(
        fc.record({
          id: fc.constant('c'),
          title: words.filter((text) => text !== ''),
          descriptors: fc.array(words, { minLength: levels.length, maxLength: levels.length }),
        }),
        { minLength: 1, maxLength: 8 },
      ),
    });
  });

describe('a rubric in a table', () => {
  it('has its whole points in the first row and its criteria in the first column', () => {
    const read = rubricFromRows(ROWS, ids());
    if ('faults' in read) throw new Error(JSON.stringify(read.faults));
    expect(read.table.levels).toEqual([5, 3, 2, 0]);
    expect(read.table.criteria[2]).toEqual({
      id: 'c3',
      title: 'Depths',
      descriptors: ['four', 'three', 'two', 'none'],
    });
    expect(totalOf(read.table)).toBe(20);
  });

  it('names every fault by its cell', () => {
    expect(faultsOf([['', '4', '2½', '', '4']])).toEqual(['C1', 'D1', 'E1', 'A2']);
    expect(
      faultsOf([
        ['', '2', '1'],
        ['', 'a', 'b'],
        ['Truth', 'a', 'b', 'c'],
        ['Truth', 'a', 'b'],
      ]),
    ).toEqual(['A2', 'D3']);
    expect(faultsOf([])).toEqual(['B1']);
    expect(faultsOf([['Criterion', '-1'], ['Truth']])).toEqual(['B1']);
  });

  it('reads back what it writes out, to the letter', () => {
    fc.assert(
      fc.property(rubric, (table) => {
        const read = rubricFromRows(rowsFromRubric(table), () => 'c');
        expect(read).toEqual({ table });
        expect(RubricTable.safeParse(table).success).toBe(true);
      }),
      { numRuns: 200 },
    );
  });

  it('is a rubric or a list of faults, whatever the table', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.string({ maxLength: 6 }), { maxLength: 5 })), (rows) => {
        const read = rubricFromRows(rows, ids());
        if ('faults' in read)
          for (const { cell } of read.faults) expect(cell).toMatch(/^[A-Z]+[1-9]\d*$/);
        else expect(RubricTable.safeParse(read.table).success).toBe(true);
      }),
    );
  });
});
