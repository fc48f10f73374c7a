import { describe, expect, it } from 'vitest';
import { attachedFile, NO_FACTS } from '../../../../tests/support/copies';
import type { CopyFacts } from '../copy/state';
import type { Attached } from '../attached/attached';
import type { Loss } from '../headcount/level';
import { deskLines } from './desk-lines';
import type { DeskAssignment, DeskDraft, DeskView } from './desk-view';

const DAY = 86_400_000;
const NOW = Date.parse('2026-10-14T09:00:00Z');
const [A, B] = ['8A', '8B'].map((name) => ({
  id: name,
  name,
  title: 'Coasts',
  leads: true,
}));
const facts = (of: Partial<CopyFacts> = {}): CopyFacts => ({
  ...NO_FACTS,
  due: NOW + DAY,
  ...of,
});
let n = 0;
const copy = (of: Partial<CopyFacts> = {}) => {
  const id = `copy ${++n}`;
  return {
    id,
    assignment: '',
    class: '',
    for: 'original',
    mask: '00',
    words: 0,
    attached: [] as Attached[],
    members: [`student ${n}`],
    facts: facts(of),
    loss: null as Loss | null,
    each: null,
  };
};
const task = (copies: ReturnType<typeof copy>[], of: Partial<DeskAssignment> = {}) => ({
  id: 'tides',
  title: 'Tides',
  class: A ?? { id: '', name: '', title: '', leads: true },
  due: NOW + DAY,
  copies,
  ...of,
});
type Task = ReturnType<typeof task>;
const linesOf = (
  tasks: Task[],
  drafts: DeskDraft[] = [],
  lacking: DeskView['lacking'] = [],
  more: Partial<DeskView> = {},
) =>
  deskLines(
    {
      assignments: tasks.map(({ copies: _copies, ...assignment }) => assignment),
      copies: tasks.flatMap(({ id, class: klass, copies }) =>
        copies.map((one) => ({ ...one, assignment: id, class: klass.id })),
      ),
      classes: [A, B].flatMap((one) => one ?? []),
      questions: [],
      closed: [],
      stuck: [],
      office: [],
      drafts,
      lacking,
      ...more,
      names: { viggo: 'Viggo Ekholm', kaisa: 'Kaisa Ilves' },
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

describe('a gap on the desk', () => {
  const loss: Loss = { version: 9, words: 200, left: 3, at: NOW - DAY };

  it('stands behind what waits for an answer: who lacks copies, and whose copy was emptied', () => {
    const emptied = { ...copy({ written: 5 }), loss, members: ['kaisa'] };
    const lines = linesOf(
      [task([emptied, copy(handedIn(NOW - DAY))])],
      [],
      [
        { assignment: 'tides', class: '8A', student: 'viggo', since: NOW - 3 * DAY },
        { assignment: 'lights', class: '8A', student: 'viggo', since: NOW - 3 * DAY },
      ],
    );
    expect(lines.map(({ kind }) => kind)).toEqual(['answer', 'lacking', 'gap', 'due']);
    expect(lines[1]).toMatchObject({ title: 'Viggo Ekholm', assignments: 2 });
    expect(lines[1]?.places).toEqual([{ class: A, count: 1, since: NOW - 3 * DAY, copy: null }]);
    expect(lines[2]).toMatchObject({ title: 'Tides', who: 'Kaisa Ilves' });
  });

  it('names nobody where several copies were emptied, nor more than three who lack some', () => {
    const emptied = () => ({ ...copy({ written: 5 }), loss });
    const many = ['a', 'b', 'c', 'd'].map((student) => ({
      assignment: 'tides',
      class: '8A',
      student,
      since: null,
    }));
    const [lacks, empty] = linesOf(
      [task([emptied()]), task([emptied()], { class: B ?? task([]).class })],
      [],
      many,
    )
      .filter(({ kind }) => kind === 'lacking' || kind === 'gap')
      .sort((x, y) => y.kind.localeCompare(x.kind));
    expect(lacks?.title).toBe('4 students');
    expect(empty).toMatchObject({ who: null });
    expect(empty?.places).toHaveLength(2);
  });

  it('has a line for each cause, and leads to its assignment', () => {
    const file = attachedFile({ at: NOW - DAY });
    const attached = { ...copy({ attached: NOW - DAY }), attached: [file], members: ['kaisa'] };
    const over = { ...copy({ written: 5 }), loss: { ...loss, pasted: 150 } };
    const gaps = linesOf([task([attached, over, { ...copy({ written: 5 }), loss }])]).flatMap(
      (line) => (line.kind === 'gap' ? [[line.cause, line.who, line.assignment, line.id]] : []),
    );
    expect(gaps.sort()).toEqual([
      ['attached', 'Kaisa Ilves', 'tides', 'tides attached'],
      ['emptied', expect.any(String), 'tides', 'tides emptied'],
      ['pasted over', expect.any(String), 'tides', 'tides pasted over'],
    ]);
  });

  it('is none once somebody accepted it, until it happens again', () => {
    const mends = (at: number) =>
      linesOf([task([{ ...copy({ written: 5, accepted: at }), loss }])]).filter(
        ({ kind }) => kind === 'gap',
      ).length;
    expect(mends(loss.at)).toBe(0);
    expect(mends(loss.at - 1)).toBe(1);
  });
});

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

  it('has one line for all drafts, when they are many', () => {
    const [one, two] = ['8A', '8B'].map((name) => ({
      id: name,
      name,
      title: 'Coasts',
      leads: true,
    }));
    const draft = (id: string, klass: typeof one, more: Partial<DeskDraft> = {}): DeskDraft[] =>
      klass ? [{ id, title: id, class: klass, goesOut: null, fault: null, ...more }] : [];
    const three = [...draft('a', one), ...draft('b', one), ...draft('c', two)];
    const planned = draft('p', one, { goesOut: NOW + 5 });
    expect(linesOf([], [...three, ...planned]).map(({ kind }) => kind)).toEqual(
      Array.from({ length: 4 }, () => 'draft'),
    );
    const lines = linesOf([], [...three, ...planned, ...draft('d', two)]);
    expect(lines.map(({ kind, id }) => [kind, id])).toEqual([
      ['draft', 'p'],
      ['drafts', ''],
    ]);
    expect(lines[1]?.places.map((place) => [place.class.name, place.count])).toEqual([
      ['8A', 2],
      ['8B', 2],
    ]);
  });

  it('shows a marker what waits for an answer, and nothing that is for those who lead', () => {
    const marks = { ...(A ?? task([]).class), leads: false };
    const tasks = [
      task([copy(handedIn(NOW - DAY)), copy({ due: NOW + DAY })], { class: marks }),
      task([{ ...copy({ written: 5 }), loss: { version: 9, words: 200, left: 3, at: NOW } }], {
        id: 'emptied',
        class: marks,
      }),
    ];
    const lacking = [{ assignment: 'tides', class: '8A', student: 'viggo', since: NOW }];
    const question = { page: 'p', kind: 'copy' as const, class: '8A', by: 'Ada Fennick', at: NOW };
    const more = { classes: [marks], questions: [question] };
    expect(linesOf(tasks, [], lacking, more).map(({ kind }) => kind)).toEqual([
      'questions',
      'answer',
    ]);
  });

  it('has one line for what students asked in the margin, the longest wait first', () => {
    const ask = (by: string, at: number, klass = '8A') => ({
      page: by,
      kind: 'copy' as const,
      class: klass,
      by,
      at,
    });
    const [line] = linesOf([], [], [], {
      questions: [ask('June', NOW - 5), ask('Ada', NOW - 9, '8B'), ask('Teo', NOW - 7)],
    });
    expect(line).toMatchObject({
      kind: 'questions',
      asked: [{ by: 'Ada' }, { by: 'Teo' }, { by: 'June' }],
      places: [
        { class: { id: '8B' }, count: 1, since: NOW - 9 },
        { class: { id: '8A' }, count: 2, since: NOW - 7 },
      ],
    });
  });

  it('says which classes are closed, who does not get on, and where the office differs', () => {
    const stuck = {
      copy: 'c',
      class: '8B',
      mask: '01',
      title: 'Tides',
      who: 'Malik Garrow',
      part: { id: 'p', number: 1, label: 'How high' },
      minutes: 40,
      others: 0,
      at: NOW - DAY,
    };
    const office = { class: '8A', joins: 1, leaves: 0, other: 0 };
    const closed = [A, B].flatMap((one, i) =>
      one ? [{ class: one, opens: i === 0 ? null : NOW + DAY }] : [],
    );
    expect(
      linesOf([], [], [], { stuck: [stuck], closed, office: [office] }).map(({ kind, places }) => [
        kind,
        places[0]?.class.id,
      ]),
    ).toEqual([
      ['stuck', '8B'],
      ['opens', '8B'],
      ['opens', '8A'],
      ['office', '8A'],
    ]);
  });

  it('nudges nobody in a class whose students see nothing yet', () => {
    const closed = A ? [{ class: A, opens: null }] : [];
    const lines = linesOf([task([copy()])], [], [], { closed });
    expect(lines.map(({ kind }) => kind)).toEqual(['due', 'opens']);
  });

  it('is empty where there is nothing', () => {
    expect(linesOf([])).toEqual([]);
  });
});
