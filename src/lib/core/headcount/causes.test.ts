import { describe, expect, it } from 'vitest';
import { attachedFile, copyRow } from '../../../../tests/support/copies';
import type { Attached } from '../attached/attached';
import {
  attachedOnly,
  cannotBeOpened,
  cannotBeRead,
  emptied,
  left,
  neverMade,
  pastedOver,
  removed,
  workedElsewhere,
  wrongAssignment,
  type CountedCopy,
} from './causes';
import { CAUSES, gapKey, type Elsewhere, type Gap } from './gap';
import { gapsNow } from './headcount';
import type { Loss } from './level';
import { DEEDS, remediesOf } from './remedy';
import { sayBriefly, sayCount, sayDeedForAll, sayGap, sayMended, sayRemedy } from './say-gap';

const ZONE = 'Europe/Dublin';
const MONDAY = Date.parse('2026-10-12T09:05:00Z');
const MINUTE = 60_000;
const LOSS: Loss = { version: 9, words: 231, left: 19, at: MONDAY };

const counted = (of: Partial<CountedCopy> = {}): CountedCopy => ({
  id: 'copy',
  assignment: 'sketch',
  for: 'original',
  class: '8C',
  members: ['kaisa'],
  words: 34,
  away: null,
  left: null,
  isOpen: true,
  accepted: null,
  ...of,
});
const file = (of: Partial<Attached> = {}) => attachedFile({ at: MONDAY, ...of });
const page = (of: Partial<Elsewhere> = {}): Elsewhere => ({
  page: 'beach',
  title: 'Beach profile',
  assignment: 'beach',
  words: 120,
  version: 4,
  written: MONDAY,
  handedIn: null,
  hasOwnWork: false,
  ...of,
});

describe('a copy that was never made', () => {
  const plan = { for: 'original', class: '8C', members: ['viggo'] };
  const of = { assignment: 'sketch', excused: new Set<string>(), joined: () => MONDAY };

  it('is lacked by somebody since they joined', () => {
    expect(neverMade(plan, of)).toMatchObject({
      cause: 'never made',
      copy: null,
      students: ['viggo'],
      since: MONDAY,
    });
  });

  it('is no gap of who need not do it', () => {
    expect(neverMade(plan, { ...of, excused: new Set(['viggo']) })).toBeNull();
    const group = { ...plan, members: ['viggo', 'ada'] };
    expect(neverMade(group, { ...of, excused: new Set(['viggo']) })).not.toBeNull();
  });
});

describe('a copy that was removed, or whose student left', () => {
  it('is a gap since then, until somebody accepts it', () => {
    expect(removed(counted({ away: MONDAY }))).toMatchObject({ cause: 'removed', since: MONDAY });
    expect(removed(counted({ away: MONDAY, accepted: MONDAY }))).toBeNull();
    expect(removed(counted({ away: MONDAY, accepted: MONDAY - 1 }))).not.toBeNull();
    expect(left(counted({ left: MONDAY }))).toMatchObject({ cause: 'left', since: MONDAY });
    expect(left(counted({ left: MONDAY, accepted: MONDAY + 1 }))).toBeNull();
  });

  it('is none where they are here, or what they wrote was handed back', () => {
    expect(left(counted())).toBeNull();
    expect(left(counted({ left: MONDAY, isOpen: false }))).toBeNull();
  });
});

describe('a copy whose work went', () => {
  it('was emptied, or pasted over, by what came in its place', () => {
    const gone = copyRow({ loss: LOSS });
    expect(emptied(gone)).toMatchObject({ cause: 'emptied', since: MONDAY, loss: LOSS });
    expect(pastedOver(gone)).toBeNull();
    const over = copyRow({ loss: { ...LOSS, pasted: 200 } });
    expect(pastedOver(over)).toMatchObject({ cause: 'pasted over' });
    expect(emptied(over)).toBeNull();
    // A few pasted words do not take the place of 231.
    expect(emptied(copyRow({ loss: { ...LOSS, pasted: 46 } }))).not.toBeNull();
    expect(pastedOver(copyRow({ loss: { ...LOSS, pasted: 47 } }))).not.toBeNull();
  });

  it('is no gap once it was accepted, until it happens again', () => {
    expect(emptied(copyRow({ loss: LOSS, facts: { accepted: MONDAY } }))).toBeNull();
    expect(emptied(copyRow({ loss: LOSS, facts: { accepted: MONDAY - 1 } }))).not.toBeNull();
    expect(emptied(copyRow())).toBeNull();
  });
});

describe('a copy with something attached', () => {
  const now = MONDAY + 10 * MINUTE;

  it('waits to be handed in once the sitting is over', () => {
    const copy = copyRow({ attached: [file()], facts: { attached: MONDAY } });
    expect(attachedOnly(copy, now)).toMatchObject({
      cause: 'attached',
      since: MONDAY,
      attached: ['sketch.pdf'],
    });
    expect(attachedOnly(copy, now - 1)).toBeNull();
    const handedIn = { ...copy, facts: { ...copy.facts, handedIn: MONDAY + 1 } };
    expect(attachedOnly(handedIn, now)).toBeNull();
    expect(attachedOnly(copyRow(), now)).toBeNull();
  });

  it('has a file that cannot be read, or a link that others cannot open', () => {
    const copy = copyRow({
      attached: [
        file({ name: 'a.xyz', found: 'cannot be read' }),
        file({ kind: 'link', name: 'https://example.org/mine', found: 'cannot be opened' }),
        file({ name: 'b.pdf', found: 'not looked at yet' }),
      ],
      facts: { handedIn: MONDAY + 1 },
    });
    expect(cannotBeRead(copy)).toMatchObject({ attached: ['a.xyz'], since: MONDAY });
    expect(cannotBeOpened(copy)).toMatchObject({ attached: ['https://example.org/mine'] });
    const accepted = { ...copy, facts: { ...copy.facts, accepted: MONDAY } };
    expect(cannotBeRead(accepted)).toBeNull();
    expect(cannotBeOpened(accepted)).toBeNull();
    expect(cannotBeRead(copyRow({ attached: [file()] }))).toBeNull();
  });
});

describe('a copy with nothing in it', () => {
  it('was worked on elsewhere: on an own page, or on a copy that is not handed in', () => {
    for (const elsewhere of [page(), page({ assignment: null })])
      expect(workedElsewhere(copyRow(), [elsewhere])).toMatchObject({
        cause: 'worked elsewhere',
        since: MONDAY,
        elsewhere,
      });
    expect(workedElsewhere(copyRow(), [])).toBeNull();
    expect(wrongAssignment(copyRow(), [page()])).toBeNull();
  });

  it('was handed in on the wrong assignment', () => {
    const elsewhere = page({ handedIn: MONDAY + 1 });
    expect(wrongAssignment(copyRow(), [page(), elsewhere])).toMatchObject({
      cause: 'wrong assignment',
      elsewhere,
    });
    expect(workedElsewhere(copyRow(), [elsewhere])).toBeNull();
  });

  it('stands where most of it is, and is no gap once that is accepted', () => {
    const long = page({ page: 'long', words: 300 });
    expect(workedElsewhere(copyRow(), [page(), long])?.elsewhere?.page).toBe('long');
    expect(workedElsewhere(copyRow({ facts: { accepted: MONDAY } }), [page()])).toBeNull();
    const since = page({ written: MONDAY + 1 });
    expect(workedElsewhere(copyRow({ facts: { accepted: MONDAY } }), [since])).not.toBeNull();
  });
});

describe('the gaps of a board', () => {
  it('are what was counted, what its copies say, and what stands elsewhere, by their causes', () => {
    const missing = removed(counted({ away: MONDAY })) as Gap;
    const apart = workedElsewhere(copyRow({ id: 'blank' }), [page()]) as Gap;
    const now = gapsNow(
      [{ gaps: [missing] }],
      [copyRow({ id: 'lost', loss: LOSS }), copyRow({ id: 'fine' })],
      [apart],
      MONDAY,
    );
    expect(now.map(({ cause, copy }) => [cause, copy])).toEqual([
      ['removed', 'copy'],
      ['emptied', 'lost'],
      ['worked elsewhere', 'blank'],
    ]);
    expect(new Set(now.map(gapKey)).size).toBe(3);
  });

  it('have a remedy each, which says what it does and what it did', () => {
    const gap = (cause: Gap['cause']): Gap => ({
      ...(emptied(copyRow({ loss: LOSS })) as Gap),
      cause,
      attached: ['sketch.pdf'],
      elsewhere: page(),
    });
    for (const cause of CAUSES) {
      expect(sayGap(gap(cause), 'Viggo Tarn', ZONE)).toMatch(/^[A-Z].*\.$/);
      expect(sayBriefly(gap(cause), ZONE)).not.toBe('');
      for (const deed of remediesOf({ cause })) {
        expect(DEEDS).toContain(deed);
        expect(sayDeedForAll(deed, { cause }, 7)).toMatch(/^[A-Z].* all 7( here)?$/);
        expect(sayRemedy(gap(cause), deed, 'Viggo Tarn', ZONE)).toMatch(/^[A-Z“].*\.$/);
        expect(sayMended(deed, cause, 1)).not.toBe(sayMended(deed, cause, 2));
      }
    }
  });

  it('are said as somebody would', () => {
    const never = neverMade(
      { for: 'original', class: '8C', members: ['viggo'] },
      { assignment: 'sketch', excused: new Set(), joined: () => MONDAY },
    ) as Gap;
    expect(sayGap(never, 'Viggo', ZONE)).toBe(
      'Viggo has no copy of it; they joined on Monday 12 October, 10:05.',
    );
    expect(sayRemedy(never, 'give', 'Viggo', ZONE)).toBe(
      'A copy will be made for Viggo, as the others got it.',
    );
    const gone = removed(counted({ away: MONDAY, words: 1 })) as Gap;
    expect(sayGap(gone, 'Viggo', ZONE)).toBe(
      'It was removed on Monday 12 October, 10:05. 1 word stands in it.',
    );
    const lost = emptied(copyRow({ loss: LOSS, words: 34 })) as Gap;
    expect(sayGap(lost, 'Viggo', ZONE)).toBe(
      'On Monday 12 October, 10:05 it went from 231 words to 19 in one sitting.',
    );
    expect(sayRemedy(lost, 'put back', 'Viggo', ZONE)).toBe(
      'The page comes back as it stood before 10:05, with 231 words. What was written since stays below it. How it stands now is kept with it, and Viggo will be notified.',
    );
    expect(
      sayCount({ expected: 24, there: 22 }, [
        never,
        gone,
        lost,
        lost,
        lost,
        { ...lost, cause: 'attached' },
        { ...lost, cause: 'attached' },
      ]),
    ).toBe(
      '24 copies should be there, 22 are, 3 of them have lost their work, 2 wait to be handed in',
    );
  });
});
