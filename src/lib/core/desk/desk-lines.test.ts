import { describe, expect, it } from 'vitest';
import { reduceEvents } from '../copy/reduce';
import type { CopyFacts } from '../copy/state';
import { deskLines, type DeskAssignment, type DeskDraft } from './desk-lines';

const DAY = 86_400_000;
const NOW = Date.parse('2026-10-14T09:00:00Z');
const [A, B] = ['8A', '8B'].map((name) => ({ id: name, name, title: 'Coasts' }));
const { openers, ...nothing } = reduceEvents([], '');
const facts = (of: Partial<CopyFacts> = {}): CopyFacts => ({
  ...nothing,
  written: null,
  attached: null,
  scored: null,
  due: NOW + DAY,
  allowance: null,
  ...of,
});
let n = 0;
const copy = (of: Partial<CopyFacts> = {}) => {
  const id = `copy ${++n}`;
  return { id, assignment: '', class: '', mask: '00', members: [`student ${n}`], facts: facts(of) };
};
const task = (copies: ReturnType<typeof copy>[], of: Partial<DeskAssignment> = {}) => ({
  id: 'tides',
  title: 'Tides',
  class: A ?? { id: '', name: '', title: '' },
  due: NOW + DAY,
  copies,
  ...of,
});
type Task = ReturnType<typeof task>;
const linesOf = (tasks: Task[], drafts: DeskDraft[] = []) =>
  deskLines(
    {
      assignments: tasks.map(({ copies: _copies, ...assignment }) => assignment),
      copies: tasks.flatMap(({ id, class: klass, copies }) =>
        copies.map((one) => ({ ...one, assignment: id, class: klass.id })),
      ),
      drafts,
    },
    NOW,
  );
const handedIn = (at: number) => ({ opened: 1, written: 1, handedIn: at, counted: at });
const kinds = (tasks: Task[]) =>
  linesOf(tasks).map(({ kind, title, places }) => [
    kind,
    title,
    places.map(({ class: { name }, count }) => `${name} ${count}`).join(', '),
  ]);

describe('the desk', () => {
  it('says an assignment once, with each class that waits, the longest wait first', () => {
    const late = copy(handedIn(NOW - 2 * DAY));
    const [answer] = linesOf([
      task([copy(handedIn(NOW - DAY)), copy({ written: 5 })], { due: null }),
      task([copy(handedIn(NOW - DAY / 2)), late], { due: null, class: B ?? task([]).class }),
    ]);
    expect(answer).toEqual({
      kind: 'answer',
      id: 'tides',
      title: 'Tides',
      places: [
        { class: B, count: 2, since: NOW - 2 * DAY, copy: { id: late.id, mask: '00' } },
        expect.objectContaining({ class: A, count: 1, since: NOW - DAY }),
      ],
    });
  });

  it('asks for no answer to what is marked or handed back', () => {
    const marked = copy({ ...handedIn(NOW - DAY), scored: NOW - 5 });
    const back = copy({ ...handedIn(NOW - DAY), scored: NOW - 5, handedBack: NOW - 4 });
    expect(kinds([task([marked, back], { due: null })])).toEqual([]);
  });

  it('nudges from a week before it is due until two weeks after, each by their own time', () => {
    const at = (due: number) => kinds([task([copy({ due })], { due })]).map(([kind]) => kind);
    expect(at(NOW + 8 * DAY)).toEqual(['due']);
    expect(at(NOW + 6 * DAY)).toEqual(['nudge', 'due']);
    expect(at(NOW - 13 * DAY)).toEqual(['nudge']);
    expect(at(NOW - 15 * DAY)).toEqual([]);
    const extended = copy({ due: NOW + 9 * DAY, allowance: 'extension' });
    const excused = copy({ allowance: 'excused' });
    expect(kinds([task([extended, excused, copy({ written: 3 })])])).toEqual([
      ['due', 'Tides', '8A 0'],
    ]);
  });

  it('says overdue where a copy is, and counts students, not pages', () => {
    const shared = { ...copy({ due: NOW - 1 }), members: ['one', 'two'] };
    const [nudge] = linesOf([task([shared], { due: NOW - 1 })]);
    expect(nudge).toMatchObject({ kind: 'nudge', overdue: true, places: [{ count: 2 }] });
  });

  it('puts what waits first, then nudges, then what is coming, each by time', () => {
    const lines = [
      task([copy()], { id: 'a', title: 'Due tomorrow' }),
      task([copy({ due: NOW - DAY })], { id: 'b', title: 'Overdue', due: NOW - DAY }),
      task([copy(handedIn(NOW - 3))], { id: 'c', title: 'New', due: null }),
      task([copy(handedIn(NOW - 9))], { id: 'd', title: 'Old', due: null }),
    ];
    const drafts = [
      {
        id: 'e',
        title: 'Planned',
        class: lines[0]?.class ?? task([]).class,
        goesOut: NOW + 5,
        fault: null,
      },
      { id: 'f', title: 'Draft', class: task([]).class, goesOut: null, fault: 'Its page is gone.' },
    ];
    expect(linesOf(lines, drafts).map(({ kind, title }) => [kind, title])).toEqual([
      ['answer', 'Old'],
      ['answer', 'New'],
      ['nudge', 'Overdue'],
      ['nudge', 'Due tomorrow'],
      ['draft', 'Planned'],
      ['due', 'Due tomorrow'],
      ['draft', 'Draft'],
    ]);
  });

  it('is empty where there is nothing', () => {
    expect(linesOf([])).toEqual([]);
  });
});
