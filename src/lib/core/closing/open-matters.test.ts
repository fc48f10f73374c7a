import { describe, expect, it } from 'vitest';
import { reduceEvents } from '../copy/reduce';
import type { CopyFacts } from '../copy/state';
import { openMatters, type ClosingClass, type OpenMatter } from './open-matters';
import { proposeReadUntil } from './read-until';
import { MATTERS, sayMatter } from './say-matter';

const { openers: _openers, ...nothing } = reduceEvents([], '');
const UNTOUCHED: CopyFacts = {
  ...nothing,
  written: null,
  attached: null,
  scored: null,
  due: null,
  allowance: null,
};
const handedIn = { ...UNTOUCHED, opened: 1, written: 2, handedIn: 3, counted: 3 };
const copy = (id: string, facts: CopyFacts, more = {}) => ({
  id,
  assignment: 'tide',
  delivery: 'one each' as const,
  replaced: false,
  facts,
  ...more,
});
const closing = (of: Partial<ClosingClass>): ClosingClass => ({
  assignments: [
    { id: 'tide', title: 'Tide' },
    { id: 'sketch', title: 'Sketch' },
  ],
  copies: [],
  gaps: [],
  files: new Map(),
  drafts: [],
  asked: [],
  ...of,
});
const kinds = (of: Partial<ClosingClass>) => openMatters(closing(of)).map(({ kind }) => kind);

describe('what is open when a term ends', () => {
  it('is files that wait to be collected', () => {
    expect(openMatters(closing({ files: new Map([['sketch', 3]]) }))).toEqual([
      { kind: 'not collected', assignment: 'sketch', title: 'Sketch', files: 3 },
    ]);
  });

  it('is work that nobody has settled, each copy once', () => {
    const copies = [
      copy('in', handedIn),
      copy('kept', { ...handedIn, scored: 4 }),
      copy('elsewhere', { ...UNTOUCHED, scored: 4 }),
      copy('again', { ...handedIn, handedBack: 5, written: 6 }),
      copy('marked again', { ...handedIn, scored: 7, handedBack: 5 }),
      copy('never', UNTOUCHED),
      copy('settled', { ...handedIn, scored: 4, handedBack: 5 }),
      copy('ended', { ...UNTOUCHED, written: 2, handedBack: 5 }),
      copy('excused', { ...UNTOUCHED, allowance: 'excused' }),
      copy('read', UNTOUCHED, { delivery: 'to read' }),
      copy('replaced', handedIn, { replaced: true }),
    ];
    expect(openMatters(closing({ copies }))).toEqual([
      { kind: 'to mark', assignment: 'tide', title: 'Tide', copies: ['in'] },
      {
        kind: 'kept back',
        assignment: 'tide',
        title: 'Tide',
        copies: ['kept', 'elsewhere', 'marked again'],
      },
      { kind: 'written in again', assignment: 'tide', title: 'Tide', copies: ['again'] },
      { kind: 'not handed in', assignment: 'tide', title: 'Tide', copies: ['never'] },
    ]);
  });

  it('stands by what waits for the teacher, then in the order of the plan', () => {
    const copies = [
      copy('a', UNTOUCHED),
      copy('b', handedIn, { assignment: 'sketch' }),
      copy('c', UNTOUCHED, { assignment: 'sketch' }),
    ];
    const matters = openMatters(closing({ copies }));
    expect(matters.map((one) => [one.kind, 'copies' in one && one.copies])).toEqual([
      ['to mark', ['b']],
      ['not handed in', ['a']],
      ['not handed in', ['c']],
    ]);
  });

  it('is a student once, who lacks two pages of an assignment', () => {
    const gaps = [
      { assignment: 'sketch', students: ['ada', 'isla'] },
      { assignment: 'sketch', students: ['ada'] },
    ];
    expect(openMatters(closing({ gaps }))).toEqual([
      { kind: 'gap', assignment: 'sketch', title: 'Sketch', students: 2 },
    ]);
  });

  it('is what is not handed out, and who has not answered', () => {
    expect(kinds({})).toEqual([]);
    expect(
      kinds({
        drafts: [{ id: 'd', title: 'Later', goesOut: null }],
        asked: [{ person: 'p', name: 'Ada Fennick' }],
      }),
    ).toEqual(['not handed out', 'asked to join']);
  });

  it('has its words for every kind', () => {
    const zone = 'Europe/Dublin';
    const goesOut = Date.parse('2026-10-22T10:40:00Z');
    const work = { assignment: 'tide', title: 'Tide' };
    const said: [OpenMatter, string][] = [
      [{ kind: 'to mark', ...work, copies: ['a'] }, '1 copy'],
      [{ kind: 'kept back', ...work, copies: ['a', 'b'] }, '2 copies'],
      [{ kind: 'written in again', ...work, copies: ['a'] }, '1 copy'],
      [{ kind: 'not handed in', ...work, copies: ['a', 'b'] }, '2 copies'],
      [{ kind: 'not collected', ...work, files: 1 }, '1 file'],
      [{ kind: 'gap', ...work, students: 3 }, '3 students'],
      [{ kind: 'not handed out', id: 'd', title: 'Later', goesOut: null }, 'a draft'],
      [
        { kind: 'not handed out', id: 'd', title: 'Later', goesOut },
        'goes out Thursday 22 October, 11:40',
      ],
      [{ kind: 'asked to join', person: 'p', name: 'Ada' }, 'has not answered'],
    ];
    expect(said.map(([matter]) => sayMatter(matter, zone))).toEqual(said.map(([, says]) => says));
    expect(new Set(said.map(([{ kind }]) => kind))).toEqual(new Set(Object.keys(MATTERS)));
  });
});

describe('the last day for reading that is proposed', () => {
  it('is three months after today, or after the end of a term that still runs', () => {
    expect(proposeReadUntil('2026-12-20', '2026-12-18')).toBe('2027-03-20');
    expect(proposeReadUntil('2026-11-30', '2026-12-18')).toBe('2027-03-18');
    // The thirty-first of a month that has none is its last day.
    expect(proposeReadUntil('2027-11-30', '2027-11-01')).toBe('2028-02-29');
  });
});
