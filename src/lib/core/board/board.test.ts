import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangeStudents, isFinished, isLookedFor, type ArrangedCell } from './arrange';
import { LENSES, MARKS, readView, writeView, type BoardView } from './board-view';

const NO_FLAGS = {
  late: false,
  overdue: false,
  extension: false,
  excused: false,
  unread: false,
  now: false,
};
const cell = (more: Partial<ArrangedCell> = {}): ArrangedCell => ({
  state: 'working',
  flags: NO_FLAGS,
  mask: '000',
  own: { written: null, handedIn: null },
  ...more,
});
const [ADA, BEN, CLEO] = [{ id: 'ada' }, { id: 'ben' }, { id: 'cleo' }] as const;
const BOATS = {
  id: 'boats',
  name: 'Boats',
  groups: [
    { name: 'Red', members: ['cleo'] },
    { name: 'Blue', members: ['ada'] },
  ],
};
const arranged = (view: Partial<BoardView>, cells: Record<string, ArrangedCell[]> = {}): string[] =>
  arrangeStudents(
    [ADA, BEN, CLEO],
    { order: 'name', group: '', ...view },
    [BOATS],
    (student) => cells[student] ?? [],
  ).map(({ id }) => id);

describe('a board’s view', () => {
  it('is read from an address as it was written there', () => {
    fc.assert(
      fc.property(
        fc.record({
          lens: fc.constantFrom(...LENSES),
          order: fc.constantFrom('name', 'begun', 'still', 'boats'),
          marks: fc.subarray([...MARKS]),
          unit: fc.string(),
          group: fc.string(),
          open: fc.array(fc.string()),
          of: fc.string(),
          at: fc.option(fc.integer({ min: Date.UTC(2000, 0), max: Date.UTC(2199, 11) })),
        }),
        (view) => {
          const address = new URLSearchParams(writeView(view).toString());
          expect(readView(address)).toEqual(view);
        },
      ),
    );
  });

  it('leaves out what is as always, and what nobody knows', () => {
    expect(writeView(readView(new URLSearchParams())).toString()).toBe('');
    expect(readView(new URLSearchParams('lens=future&only=asleep&only=late'))).toMatchObject({
      lens: 'work',
      marks: ['late'],
    });
  });
});

describe('the students of a board', () => {
  it('come by name, as they are given', () => {
    expect(arranged({})).toEqual(['ada', 'ben', 'cleo']);
  });

  it('come least begun first: by copies, then by parts', () => {
    const written = { written: 5, handedIn: null };
    const cells = {
      ada: [cell({ own: written, mask: '110' }), cell()],
      ben: [cell({ own: written, mask: '100' }), cell()],
      cleo: [cell({ own: written }), cell({ own: { written: null, handedIn: 9 } })],
    };
    expect(arranged({ order: 'begun' }, cells)).toEqual(['ben', 'ada', 'cleo']);
  });

  it('come by who has changed nothing for longest; who never did is first', () => {
    const cells = {
      ada: [cell({ own: { written: 30, handedIn: null } }), cell()],
      ben: [cell({ own: { written: 10, handedIn: 20 } })],
    };
    expect(arranged({ order: 'still' }, cells)).toEqual(['cleo', 'ben', 'ada']);
  });

  it('come by group, in the order of the groups; who is in none comes last', () => {
    expect(arranged({ order: 'boats' })).toEqual(['cleo', 'ada', 'ben']);
    expect(arranged({ group: 'boats Blue' })).toEqual(['ada']);
    // A group that is no more hides nobody.
    expect(arranged({ group: 'boats Green', order: 'gone' })).toEqual(['ada', 'ben', 'cleo']);
  });
});

describe('a cell', () => {
  it('is looked for by its state, or by a flag beside it', () => {
    const late = cell({ state: 'handed in', flags: { ...NO_FLAGS, late: true } });
    expect(isLookedFor({ marks: [] }, late)).toBe(true);
    expect(isLookedFor({ marks: ['late'] }, late)).toBe(true);
    expect(isLookedFor({ marks: ['unopened', 'handed in'] }, late)).toBe(true);
    expect(isLookedFor({ marks: ['working', 'unread'] }, late)).toBe(false);
  });
});

describe('a column', () => {
  it('is finished when all of it is handed back, or need not come', () => {
    const back = cell({ state: 'handed back' });
    const excused = cell({ state: 'unopened', flags: { ...NO_FLAGS, excused: true } });
    expect(isFinished([back, excused])).toBe(true);
    expect(isFinished([back, cell({ state: 'marked' })])).toBe(false);
    expect(isFinished([cell({ state: 'handed back', flags: { ...NO_FLAGS, unread: true } })])).toBe(
      false,
    );
    expect(isFinished([])).toBe(false);
  });
});
