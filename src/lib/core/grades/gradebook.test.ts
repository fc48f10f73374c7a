import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copyRow } from '../../../../tests/support/copies';
import type { CopyRow } from '../copy/copy-row';
import { rowsFromGradebook } from '../formats/gradebook-table';
import { gradeCell, gradeRows, type GradeColumn } from './gradebook';
import { PLAIN_RULES, type GradeRules } from './rules';
import { saySpread, spreadOf } from './spread';

const DUE = 1000;
const NOW = 2000;
const copy = (more: Partial<CopyRow> = {}, facts: Partial<CopyRow['facts']> = {}): CopyRow =>
  copyRow({ assignment: 'a', for: 'o', mask: '0', ...more, facts: { due: DUE, ...facts } });
const column: GradeColumn = {
  assignment: 'a',
  for: 'o',
  title: 'Tides, “all”',
  category: 'tasks',
  most: '10.00',
  counting: 'yes',
  byRubric: false,
  due: DUE,
};

describe('points of a page that was replaced', () => {
  const shared = {
    id: 'shared',
    student: null,
    members: ['ada', 'ben'],
    delivery: 'one for all' as const,
  };
  const earlier = copy(
    { id: 'earlier', replaced: true, score: '1', points: '7', pointsBack: '7' },
    { handedBack: 900 },
  );
  const gotOf = (now: CopyRow) => {
    const rows = gradeRows(
      { columns: [column], rules: PLAIN_RULES },
      [earlier, now],
      ['ada', 'ben'],
      NOW,
    );
    return ['ada', 'ben'].map((id) => rows.get(id)?.cells[0]?.got);
  };

  it('stay with their student, until there are others for what they have now', () => {
    expect(gotOf(copy(shared, { due: null }))).toEqual([{ points: '7' }, 'open']);
    const scored = { ...shared, score: '2', points: '9', pointsBack: '9' };
    expect(gotOf(copy(scored, { handedBack: 950 }))).toEqual([{ points: '9' }, { points: '9' }]);
  });
});

describe('a cell', () => {
  const seen = (...args: Parameters<typeof copy>) => {
    const { got, kept, says } = gradeCell(copy(...args), 'ada', NOW);
    return [got, kept, says];
  };
  it('counts what was handed back, and shows what is kept back', () => {
    const back = { score: '1', points: '7', pointsBack: '7' };
    expect(seen(back, { handedBack: 900 })).toEqual([{ points: '7' }, null, '']);
    expect(seen({ ...back, score: '2', points: '8' }, { handedBack: 900 })).toEqual([
      { points: '7' },
      '8',
      '',
    ]);
    expect(seen({ score: '2', points: '8' }, { handedIn: 900, counted: 900 })).toEqual([
      'open',
      '8',
      'to mark',
    ]);
  });
  it('is missing once it is due, and not before, nor where more time was given', () => {
    expect(seen()).toEqual(['missing', null, 'missing']);
    expect(seen({}, { due: NOW + 1 })).toEqual(['open', null, '']);
    expect(seen({}, { due: null })).toEqual(['open', null, '']);
    expect(gradeCell(null, 'ada', NOW).got).toBe('open');
  });
  it('is excused, whatever points it has', () => {
    expect(seen({ score: '1', points: '7', pointsBack: '7' }, { allowance: 'excused' })).toEqual([
      'excused',
      null,
      'excused',
    ]);
  });
});

describe('a gradebook', () => {
  const rules: GradeRules = {
    ...PLAIN_RULES,
    total: 'points',
    missing: 'zero',
    places: 1,
    scale: [{ from: '50', grade: 'passed' }],
  };
  const students = [
    { id: 'ada', family: 'Fennick', given: 'Ada' },
    { id: 'teo', family: '=Calloway', given: 'Teo' },
    { id: 'zina', family: 'Okpara', given: 'Zina' },
  ];
  const shared = copy({
    members: ['ada', 'teo'],
    student: null,
    score: '1',
    points: '7.50',
    pointsBack: '7.50',
  });
  it('gives every member of a shared copy its points, and is a table that programs read', () => {
    const rows = gradeRows(
      { columns: [column], rules },
      [shared, copy({ id: 'z', members: ['zina'] })],
      students.map(({ id }) => id),
      NOW,
    );
    expect(rowsFromGradebook({ columns: [column], rules }, students, rows)).toEqual([
      ['Family name', 'Given name', 'Tides, “all”', 'Total, percent', 'Grade'],
      ['', 'Category', 'tasks', '', ''],
      ['', 'Points', '10', '', ''],
      ['Fennick', 'Ada', '7.5', '75.0', 'passed'],
      ['=Calloway', 'Teo', '7.5', '75.0', 'passed'],
      ['Okpara', 'Zina', '0', '0.0', ''],
    ]);
  });
  it('leaves what was replaced, or only read, out', () => {
    const rows = gradeRows(
      { columns: [column], rules },
      [copy({ replaced: true }), copy({ delivery: 'to read' })],
      ['ada'],
      NOW,
    );
    expect(rows.get('ada')?.cells[0]?.says).toBe('no copy');
  });
});

describe('a spread', () => {
  // Worked by hand: 1, 2, 2, 9 and 12 of ten.
  it('counts tenths, and says the middle', () => {
    const spread = spreadOf(['2', '12', '1', '2.00', '9'], '10');
    expect(spread.tenths).toEqual([0, 1, 2, 0, 0, 0, 0, 0, 0, 2]);
    expect(saySpread(spread)).toBe(
      '5 have points, from 1 to 12. Half have 2 or more; the mean is 5.2.',
    );
    expect(saySpread(spreadOf(['1', '2'], '10'))).toMatch('Half have 1½ or more; the mean is 1½.');
    expect(saySpread(spreadOf([], '10'))).toBe('Nobody has points yet.');
    expect(saySpread(spreadOf(['0'], '0'))).toBe('One has points: 0.');
  });
  it('counts everybody once', () => {
    fc.assert(
      fc.property(fc.array(fc.nat({ max: 1200 })), (hundredths) => {
        const spread = spreadOf(
          hundredths.map((n) => (n / 100).toFixed(2)),
          '10',
        );
        expect(spread.tenths.reduce((a, b) => a + b, 0)).toBe(hundredths.length);
      }),
    );
  });
});
