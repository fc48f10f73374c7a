import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planHandOut, type ClassFacts, type Situation } from './plan';
import { DELIVERIES, dueFault, HandOutSpec } from './spec';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const [PAGE, READING, ADAPTED, A, B] = [id(1), id(2), id(3), id(10), id(11)];
/** Wednesday 14 October 2026, 10:00 in Dublin. */
const NOW = Date.parse('2026-10-14T09:00:00Z');
const student = (n: number) => ({ id: id(100 + n), name: `Student ${n}` });

const slot = (weekday: number, starts: string, ends: string) => ({ weekday, starts, ends });
const timetable = (...slots: ReturnType<typeof slot>[]) => ({
  timeZone: 'Europe/Dublin',
  slots,
  holidays: [{ starts: '2026-10-26', ends: '2026-10-30' }],
  term: { starts: '2026-09-01', ends: '2026-12-18' },
});

const klass = (of: Partial<ClassFacts> = {}): ClassFacts => ({
  id: A,
  name: '8A',
  open: true,
  students: [1, 2, 3, 4].map(student),
  groups: [],
  timetable: timetable(slot(3, '14:00', '14:50'), slot(5, '10:50', '11:40')),
  ...of,
});
const other = klass({
  id: B,
  name: '8B',
  students: [5, 6].map(student),
  timetable: timetable(slot(4, '14:00', '14:50'), slot(1, '10:50', '11:40')),
});
const situation = (...classes: ClassFacts[]): Situation => ({
  now: NOW,
  goesOut: NOW,
  timeZone: 'Europe/Dublin',
  classes,
  blank: id(9),
  pages: new Map([
    [PAGE, { title: 'Beach profile', parts: 3, keys: 0 }],
    [READING, { title: 'Words of the shore', parts: 0, keys: 0 }],
    [ADAPTED, { title: 'Beach profile, wider', parts: 3, keys: 0 }],
  ]),
});
const spec = (of: Record<string, unknown> = {}) =>
  HandOutSpec.parse({
    title: 'Beach profile',
    originals: [{ page: PAGE, delivery: 'one each' }],
    classes: [{ class: A }],
    due: { kind: 'lesson', nth: 2 },
    ...of,
  });
const plan = (of: Record<string, unknown> = {}, ...classes: ClassFacts[]) =>
  planHandOut(spec(of), situation(...(classes.length > 0 ? classes : [klass()])));

describe('the plan of a hand-out', () => {
  it('says what one each will come to, and makes that', () => {
    const { copies, facts, oddities, due } = plan({ points: '7.5' });
    expect(copies.map((copy) => copy.student)).toEqual([1, 2, 3, 4].map((n) => student(n).id));
    const friday = Date.parse('2026-10-16T10:40:00Z');
    expect(facts).toEqual([
      { kind: 'own copies', page: null, copies: 4, adapted: 0, classes: ['8A'] },
      { kind: 'due', times: [{ at: friday, classes: ['8A'] }] },
      { kind: 'guarded', places: 3 },
      { kind: 'points', points: '7.5' },
    ]);
    expect(oddities).toEqual([]);
    expect(due.get(A)).toBe(friday);
  });

  it('gives an adapted page to those who have one, and tells only how many', () => {
    const adapted = [{ page: ADAPTED, instead: PAGE, students: [student(2).id, student(6).id] }];
    const classes = [{ class: A }, { class: B }];
    const { copies, facts } = plan({ adapted, classes }, klass(), other);
    expect(facts.slice(0, 2)).toEqual([
      { kind: 'own copies', page: null, copies: 6, adapted: 2, classes: ['8A', '8B'] },
      {
        kind: 'due',
        times: [
          { at: Date.parse('2026-10-16T10:40:00Z'), classes: ['8A'] },
          { at: Date.parse('2026-10-19T10:40:00Z'), classes: ['8B'] },
        ],
      },
    ]);
    expect(copies.filter(({ source }) => source === ADAPTED).map((copy) => copy.student)).toEqual([
      student(2).id,
      student(6).id,
    ]);
  });

  it('shares one page in each class, by group, or to read', () => {
    const originals = (delivery: string) => ({ originals: [{ page: PAGE, delivery }] });
    const all = plan(
      { ...originals('one for all'), classes: [{ class: A }, { class: B }] },
      klass(),
      other,
    );
    expect(all.facts.slice(0, 2)).toEqual([
      { kind: 'shared by class', page: null, class: '8A', students: 4 },
      { kind: 'shared by class', page: null, class: '8B', students: 2 },
    ]);
    expect(all.copies.map(({ members }) => members.length)).toEqual([4, 2]);
    expect(plan(originals('to read')).facts[0]).toEqual({ kind: 'read', page: null, students: 4 });
    const groups = [
      { name: 'Tern', members: [student(1).id, student(2).id] },
      { name: 'Skua', members: [student(3).id] },
      { name: 'Eider', members: [] },
    ];
    const grouped = plan(originals('one per group'), klass({ groups }));
    expect(grouped.copies.map(({ group, members }) => [group, members.length])).toEqual([
      ['Tern', 2],
      ['Skua', 1],
      ['', 1],
    ]);
    expect(grouped.facts.slice(0, 2)).toEqual([
      { kind: 'shared by groups', page: null, pages: 2, classes: ['8A'], students: 3 },
      { kind: 'alone', page: null, students: 1 },
    ]);
    expect(grouped.oddities).toEqual([
      { kind: 'empty group', group: 'Eider', class: '8A' },
      { kind: 'in no group', name: 'Student 4', class: '8A' },
    ]);
  });

  it('asks without a page whether something is done', () => {
    const { copies, facts } = plan({ form: 'done or not', originals: [] });
    expect(facts[0]).toEqual({ kind: 'done or not', students: 4 });
    expect(new Set(copies.map(({ source }) => source))).toEqual(new Set([id(9)]));
  });

  it('names the page where there are several', () => {
    const { facts } = plan({
      originals: [
        { page: PAGE, delivery: 'one each' },
        { page: READING, delivery: 'to read' },
      ],
    });
    expect(facts.slice(0, 2)).toEqual([
      { kind: 'own copies', page: 'Beach profile', copies: 4, adapted: 0, classes: ['8A'] },
      { kind: 'read', page: 'Words of the shore', students: 4 },
    ]);
  });

  it('goes to chosen students only, and without some', () => {
    const [one, two, three] = [1, 2, 3].map((n) => student(n).id);
    const { copies } = plan({ only: [one, two, three], without: [two] });
    expect(copies.map((copy) => copy.student)).toEqual([one, three]);
  });

  it('names every oddity', () => {
    const at = (local: string) => ({ due: { kind: 'at', local } });
    const says = (of: Record<string, unknown>, ...classes: ClassFacts[]) =>
      plan(of, ...classes).oddities;
    expect(says(at('2026-10-13T11:40'))).toEqual([{ kind: 'due in the past' }]);
    expect(says(at('2026-10-16T00:00'))).toEqual([{ kind: 'due at midnight' }]);
    expect(says(at('2026-10-16T09:00'))).toEqual([
      { kind: 'due outside a lesson', class: '8A', at: Date.parse('2026-10-16T08:00:00Z') },
    ]);
    expect(says(at('2026-10-17T09:00'))).toEqual([
      { kind: 'due on a day without lesson', class: '8A', at: Date.parse('2026-10-17T08:00:00Z') },
    ]);
    expect(says(at('2026-10-28T14:50'))).toMatchObject([{ kind: 'due in holidays', class: '8A' }]);
    expect(says(at('2026-12-19T00:00'))).toMatchObject([{ kind: 'due after the term' }]);
    const later = { ...situation(klass()), goesOut: Date.parse('2026-10-20T09:00:00Z') };
    expect(planHandOut(spec(at('2026-10-16T11:40')), later).oddities).toEqual([
      { kind: 'due before it goes out', class: '8A' },
    ]);
    expect(says({ due: { kind: 'lesson', nth: 20 } })).toEqual([
      { kind: 'no such lesson', class: '8A', nth: 20 },
    ]);
    expect(says({}, klass({ open: false }))).toEqual([{ kind: 'closed class', class: '8A' }]);
    expect(says({}, klass({ students: [] }))).toEqual([{ kind: 'nobody gets it', class: '8A' }]);
    const twice = klass({ id: B, name: '8B', students: [student(4), student(5)] });
    expect(says({ classes: [{ class: A }, { class: B }] }, klass(), twice)).toEqual([
      { kind: 'in several classes', name: 'Student 4', classes: ['8A', '8B'] },
    ]);
    const adapted = (instead: string) => [{ page: ADAPTED, instead, students: [student(9).id] }];
    expect(says({ adapted: adapted(PAGE) })).toEqual([
      { kind: 'adapted for others', page: 'Beach profile, wider', students: 1 },
    ]);
    expect(says({ adapted: adapted(READING) })).toContainEqual({
      kind: 'adapts nothing',
      page: 'Beach profile, wider',
    });
    expect(says({ originals: [{ page: READING, delivery: 'one each' }] })).toEqual([
      { kind: 'nowhere to write', page: 'Words of the shore' },
    ]);
    expect(says({ originals: [{ page: PAGE, delivery: 'one per group' }] })).toEqual([
      { kind: 'no groups', class: '8A' },
    ]);
  });

  it('says what a change of clock does to a due time, and that it goes out when nobody waits', () => {
    // In Ireland the clock goes back on 25 October 2026 at 02:00, and forward on 28 March 2027 at 01:00 (IANA tz database).
    const says = (local: string) => plan({ due: { kind: 'at', local } }).oddities;
    expect(says('2026-10-25T01:30')).toContainEqual({
      kind: 'due time comes twice',
      at: Date.parse('2026-10-25T00:30:00Z'),
    });
    expect(says('2027-03-28T01:30')).toContainEqual({
      kind: 'due time is skipped',
      local: '2027-03-28T01:30',
      at: Date.parse('2027-03-28T01:30:00Z'),
    });
    expect(says('2026-10-25T03:30').map(({ kind }) => kind)).not.toContain('due time comes twice');
    const goesOut = Date.parse('2026-10-28T02:30:00Z');
    expect(planHandOut(spec(), { ...situation(klass()), goesOut }).oddities).toEqual([
      { kind: 'goes out at night', at: goesOut },
      { kind: 'goes out in holidays', class: '8A' },
    ]);
  });

  it.each(['0020-05-06T10:00', '1999-12-31T10:00', '2200-01-01T10:00', '2026-02-30T10:00'])(
    'is not asked for with a due time like %s, and read where one stands already',
    (local) => {
      const odd = spec({ due: { kind: 'at', local } });
      expect(dueFault(odd)).toContain('There is no such due time');
      expect(
        dueFault({ ...spec(), classes: [{ class: A, unit: null, grouping: null, due: odd.due }] }),
      ).not.toBeNull();
      expect(dueFault(spec({ due: { kind: 'at', local: '2026-10-16T11:40' } }))).toBeNull();
    },
  );

  it('does not warn of a due time in a lesson, however many lessons there are before it', () => {
    // Five lessons a week: the last of the term is the 71st from now.
    const daily = klass({
      timetable: timetable(...[1, 2, 3, 4, 5].map((day) => slot(day, '10:50', '11:40'))),
    });
    expect(plan({ due: { kind: 'at', local: '2026-12-18T11:40' } }, daily).oddities).toEqual([]);
  });

  it('gives every expected student exactly one right to each page, whatever the spec', () => {
    const some = fc.subarray(Array.from({ length: 12 }, (_, n) => student(n)));
    const facts = (key: string, name: string) =>
      fc.record({
        id: fc.constant(key),
        name: fc.constant(name),
        open: fc.boolean(),
        students: some,
        groups: fc.array(
          fc.record({ name: fc.string({ maxLength: 3 }), members: fc.constant<string[]>([]) }),
          { maxLength: 4 },
        ),
        timetable: fc.constant(timetable()),
      });
    const ids = some.map((list) => list.map((one) => one.id));
    fc.assert(
      fc.property(
        ...([
          facts(A, '8A'),
          facts(B, '8B'),
          fc.constantFrom(...DELIVERIES),
          fc.option(ids),
          ids,
          ids,
          fc.nat(3),
        ] as const),
        (a, b, delivery, only, without, adapted, turn) => {
          // Everybody is in at most one group of a class.
          const groups = a.groups.map((group, index) => ({
            name: `${index}`,
            members: a.students
              .filter((_, n) => n % 4 === index && n % 3 !== turn)
              .map((one) => one.id),
          }));
          const given = spec({
            originals: [
              { page: PAGE, delivery },
              { page: READING, delivery: 'to read' },
            ],
            classes: [{ class: A }, { class: B }],
            only,
            without,
            adapted: [{ page: ADAPTED, instead: PAGE, students: adapted }],
          });
          const { copies } = planHandOut(given, situation({ ...a, groups }, b));
          const expected = new Set(
            [...a.students, ...b.students]
              .map((one) => one.id)
              .filter((one) => !without.includes(one) && (!only || only.includes(one))),
          );
          for (const page of [PAGE, READING]) {
            const rights = copies
              .filter((copy) => copy.for === page)
              .flatMap(({ members }) => members);
            expect(rights.length).toBe(new Set(rights).size);
            expect(new Set(rights)).toEqual(expected);
          }
          for (const copy of copies)
            for (const one of copy.members)
              expect(copy.source === ADAPTED).toBe(copy.for === PAGE && adapted.includes(one));
        },
      ),
    );
  });
});
