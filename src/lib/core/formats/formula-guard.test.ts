import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { guarded, withoutGuard } from './formula-guard';

describe('a cell guarded against being a formula', () => {
  it('is text to a spreadsheet: the signs of OWASP, CSV Injection', () => {
    for (const sign of ['=', '+', '-', '@', '\t', '\r'])
      expect(guarded(`${sign}1+1`)).toBe(`'${sign}1+1`);
    for (const cell of ['', 'a', '12', '-3', '-3,5', "it's"]) expect(guarded(cell)).toBe(cell);
  });

  it('is read as it was', () => {
    const cells = fc.oneof(fc.string(), fc.stringMatching(/^'{0,3}[=+\-@\t\r]?[a-z0-9.,]{0,5}$/));
    fc.assert(
      fc.property(cells, (cell) => void expect(withoutGuard(guarded(cell))).toBe(cell)),
      { numRuns: 1000, examples: [["'=1"], ["''-5"], ['-5'], ["'-5"]] },
    );
  });
});
