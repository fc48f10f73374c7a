import { describe, expect, it } from 'vitest';
import { keepCriteria, RubricTable } from './rubric';

const table = (...criteria: [id: string, title: string, says: string][]): RubricTable => ({
  levels: [1],
  criteria: criteria.map(([id, title, says]) => ({ id, title, descriptors: [says] })),
});

describe('a rubric that is read anew', () => {
  it('keeps the criteria of the same name, then those that say the same', () => {
    const known = table(['a', 'Truth', 'all'], ['b', 'Order', 'clear'], ['c', 'Words', '']);
    const read = table(
      ['1', 'Line', 'clear'],
      ['2', 'Truth', 'nearly all'],
      ['3', 'New', ''],
      ['4', 'Truth', 'all'],
    );
    expect(keepCriteria(read, known).criteria.map(({ id }) => id)).toEqual(['b', 'a', '3', '4']);
  });
});

describe('what is wrong with a rubric', () => {
  it('is said in words', () => {
    const faults = (change: object) => {
      const read = RubricTable.safeParse({ ...table(['a', 'Truth', '']), ...change });
      return read.success ? [] : read.error.issues.map(({ message }) => message);
    };
    for (const level of [2.5, -1, 1001, null, '3'])
      expect(faults({ levels: [level] })).toContain('Each level has whole points, from 0 to 1000.');
    expect(faults({ levels: [1, 1], criteria: [] })).toEqual(['Two levels have the same points.']);
    expect(faults({ criteria: [{ id: 'a', title: ' ', descriptors: [''] }] })).toEqual([
      'Each criterion needs a name.',
    ]);
    expect(
      faults({ criteria: [{ id: 'a', title: 'T', descriptors: ['x'.repeat(2001)] }] }),
    ).toEqual(['A descriptor has at most 2000 characters.']);
  });
});
