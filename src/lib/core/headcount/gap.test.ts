import { describe, expect, it } from 'vitest';
import { reduceEvents } from '../copy/reduce';
import type { CopyRow } from '../copy/copy-row';
import { gapsNow, sayGap, sayRemedy, type GapView } from './gap';

const ZONE = 'Europe/Dublin';
const MONDAY = Date.parse('2026-10-12T09:05:00Z');
const gap = (of: Partial<GapView>): GapView => ({
  cause: 'never made',
  assignment: 'sketch',
  for: 'original',
  class: '8C',
  copy: null,
  students: ['viggo'],
  since: MONDAY,
  words: 0,
  loss: null,
  ...of,
});
const loss = { version: 9, words: 231, left: 19, at: MONDAY };
const { openers, ...handing } = reduceEvents([], '');
const copy = (of: Partial<CopyRow>): CopyRow => ({
  id: 'copy',
  assignment: 'sketch',
  class: '8C',
  student: 'kaisa',
  members: ['kaisa'],
  openers,
  group: '',
  delivery: 'one each',
  for: 'original',
  replaced: false,
  mask: '',
  words: 34,
  version: 12,
  score: null,
  points: null,
  pointsBack: null,
  loss,
  each: null,
  lossAccepted: null,
  facts: { ...handing, written: null, attached: null, scored: null, due: null, allowance: null },
  ...of,
});

describe('the gaps of a board', () => {
  it('are what was counted as missing, and what its copies say now', () => {
    const counted = [
      gap({}),
      gap({ cause: 'emptied', copy: 'mended since', loss, students: ['ada'] }),
    ];
    const now = gapsNow([{ gaps: counted }], [copy({}), copy({ loss: null })]);
    expect(now.map(({ cause, students }) => [cause, students])).toEqual([
      ['never made', ['viggo']],
      ['emptied', ['kaisa']],
    ]);
    expect(gapsNow([], [copy({ lossAccepted: MONDAY })])).toEqual([]);
    expect(gapsNow([], [copy({ lossAccepted: MONDAY - 1 })])).toHaveLength(1);
  });
});

describe('a gap in words', () => {
  it.each<[Partial<GapView>, string, string]>([
    [
      {},
      'Viggo has no copy of it; they joined on Monday 12 October, 10:05.',
      'A copy will be made for Viggo, as the others got it.',
    ],
    [{ since: null }, 'Viggo has no copy of it.', 'A copy will be made for Viggo'],
    [
      { cause: 'removed', copy: 'copy', words: 1 },
      'It was removed on Monday 12 October, 10:05. 1 word stands in it.',
      'It comes back as it was, with all that is written in it.',
    ],
    [
      { cause: 'emptied', copy: 'copy', loss, words: 34 },
      'On Monday 12 October, 10:05 it went from 231 words to 19 in one sitting.',
      'The page comes back as it stood before 10:05, with 231 words.',
    ],
  ])('says what happened, and what mending does', (of, says, remedy) => {
    expect(sayGap(gap(of), 'Viggo', ZONE)).toBe(says);
    expect(sayRemedy(gap(of), 'Viggo', ZONE)).toContain(remedy);
  });
});
