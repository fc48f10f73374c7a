import { describe, expect, it } from 'vitest';
import type { CopyFacts } from '../copy/state';
import { besideInLine, goOnAt, inLine, lineUp, type InLine } from './marking-line';

const UNTOUCHED: CopyFacts = {
  opened: null,
  written: null,
  attached: null,
  handedIn: null,
  counted: null,
  takenBack: null,
  handedBack: null,
  scored: null,
  looked: null,
  staffLooked: null,
  accepted: null,
  due: null,
  allowance: null,
};
const copyOf = (name: string, facts: Partial<CopyFacts>, group = ''): InLine => ({
  copy: { id: name, facts: { ...UNTOUCHED, ...facts } },
  name,
  group,
});
const ada = copyOf('Ada', { handedIn: 30 }, 'Group 10');
const ben = copyOf('Ben', { handedIn: 10 }, 'Group 2');
const dayo = copyOf('Dayo', { written: 5 });
const isla = copyOf('Isla', { handedIn: 5, scored: 40 }, 'Group 2');
const june = copyOf('June', { handedIn: 20 });
const CLASS = [ada, ben, dayo, isla, june];

describe('the line of copies', () => {
  it('goes by who waits longest, by name, or by group with numbers as numbers', () => {
    expect(lineUp(CLASS, 'waiting')).toEqual(['Ben', 'June', 'Ada', 'Dayo', 'Isla']);
    expect(lineUp(CLASS, 'name')).toEqual(['Ada', 'Ben', 'Dayo', 'Isla', 'June']);
    expect(lineUp(CLASS, 'group')).toEqual(['Ben', 'Isla', 'Ada', 'Dayo', 'June']);
    expect(lineUp([], 'waiting')).toEqual([]);
  });

  it('does not move under the hands of who goes through it', () => {
    const formed = lineUp(CLASS, 'waiting');
    const marked = copyOf('Ben', { handedIn: 10, scored: 50, handedBack: 50 });
    const later = copyOf('Zina', { handedIn: 1 });
    const now = [ada, marked, dayo, isla, june, later];
    const names = (unmarkedOnly: boolean) =>
      inLine(now, formed, { unmarkedOnly, dealtTo: null, current: 'Ben' }).map(({ name }) => name);
    expect(names(false)).toEqual(['Ben', 'June', 'Ada', 'Dayo', 'Isla', 'Zina']);
    expect(names(true)).toEqual(['Ben', 'June', 'Ada', 'Zina']);
  });

  it('goes on from its end to what still waits, and from its beginning nowhere', () => {
    const line = inLine(CLASS, lineUp(CLASS, 'name'), {
      unmarkedOnly: false,
      dealtTo: null,
      current: 'Ada',
    });
    expect(besideInLine(line, 'Ada', 1)?.name).toBe('Ben');
    expect(besideInLine(line, 'June', 1)?.name).toBe('Ada');
    expect(besideInLine(line, 'Ada', -1)).toBeNull();
    expect(besideInLine([june], 'June', 1)).toBeNull();
  });

  it('is gone on with where somebody was, or at the next that waits', () => {
    const line = inLine(CLASS, lineUp(CLASS, 'name'), {
      unmarkedOnly: false,
      dealtTo: null,
      current: '',
    });
    expect(goOnAt(line, 'June')).toBe('June');
    expect(goOnAt(line, 'Dayo')).toBe('June');
    expect(goOnAt(line, 'Isla')).toBe('June');
    expect(goOnAt(line, null)).toBe('Ada');
    expect(goOnAt(line, 'gone')).toBe('Ada');
    expect(goOnAt([dayo, isla], 'Isla')).toBe('Isla');
    expect(goOnAt([], null)).toBeNull();
  });
});
