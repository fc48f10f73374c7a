import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { byCovers, byRoster, cutsOf, readCover, writeCover, type Sheet } from './cuts';

describe('a stack of sheets', () => {
  it('is cut by the order of the roster, and what is left over is nobody’s', () => {
    expect(cutsOf(byRoster(7, 2, ['ada', 'ben']))).toEqual([
      { pages: [1, 2], student: 'ada' },
      { pages: [3, 4], student: 'ben' },
      { pages: [5, 6, 7], student: null },
    ]);
    expect(cutsOf(byRoster(1, 2, ['ada', 'ben']))).toEqual([{ pages: [1], student: 'ada' }]);
    expect(cutsOf(byRoster(3, 1, []))).toEqual([{ pages: [1, 2, 3], student: null }]);
  });

  it('is cut by its cover sheets, which go to nobody; two of one student are one', () => {
    expect(cutsOf(byCovers([null, 'ada', null, null, 'ben', 'cy', null, 'ada', null]))).toEqual([
      { pages: [1], student: null },
      { pages: [3, 4, 9], student: 'ada' },
      { pages: [7], student: 'cy' },
    ]);
  });

  it('loses no sheet and gives none twice, however it is cut', () => {
    const sheet: fc.Arbitrary<Sheet> = fc.record({
      begins: fc.boolean(),
      student: fc.option(fc.constantFrom('ada', 'ben', 'cy')),
      out: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(sheet, { maxLength: 40 }), (sheets) => {
        const pages = cutsOf(sheets).flatMap((cut) => cut.pages);
        const kept = sheets.flatMap(({ out }, index) => (out ? [] : [index + 1]));
        expect(pages.sort((a, b) => a - b)).toEqual(kept);
      }),
    );
  });

  it('knows its own codes, and no others', () => {
    expect(readCover(writeCover('task', 'ada'), 'task')).toBe('ada');
    expect(readCover(writeCover('other', 'ada'), 'task')).toBeNull();
    expect(readCover('https://harbour.example/ada', 'task')).toBeNull();
  });
});
