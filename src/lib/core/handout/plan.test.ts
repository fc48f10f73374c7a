import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planHandOut, type ClassFacts, type Situation } from './plan';
import { DELIVERIES, HandOutWish } from './wish';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const [PAGE, READING, ADAPTED, A, B] = [id(1), id(2), id(3), id(10), id(11)];
const HOUR = 3_600_000;
/** Wednesday 14 October 2026, 10:00 in Dublin. */
const NOW = Date.parse('2026-10-14T09:00:00Z');
const lesson = (at: string) => ({ starts: Date.parse(at) - HOUR, ends: Date.parse(at) });
const student = (n: number) => ({ id: id(100 + n), name: `Student ${n}` });

const klass = (of: Partial<ClassFacts> = {}): ClassFacts => ({
  id: A,
  name: '8A',
  open: true,
  students: [1, 2, 3, 4].map(student),
  groups: [],
  lessons: [lesson('2026-10-14T13:50:00Z'), lesson('2026-10-16T10:40:00Z')],
  termEnds: Date.parse('2026-12-19T00:00:00Z'),
  ...of,
});
const other = klass({
  id: B,
  name: '8B',
  students: [5, 6].map(student),
  lessons: [lesson('2026-10-15T13:50:00Z'), lesson('2026-10-19T10:40:00Z')],
});
const situation = (...classes: ClassFacts[]): Situation => ({
  now: NOW,
  goesOut: NOW,
  timeZone: 'Europe/Dublin',
  classes,
  blank: id(9),
  pages: new Map([
    [PAGE, { title: 'Beach profile', parts: 3 }],
    [READING, { title: 'Words of the shore', parts: 0 }],
    [ADAPTED, { title: 'Beach profile, wider', parts: 3 }],
  ]),
});
const wish = (of: Record<string, unknown> = {}) =>
  HandOutWish.parse({
    title: 'Beach profile',
    originals: [{ page: PAGE, delivery: 'one each' }],
    classes: [{ class: A }],
    due: { kind: 'lesson', nth: 2 },
    ...of,
  });
const plan = (of: Record<string, unknown> = {}, ...classes: ClassFacts[]) =>
  planHandOut(wish(of), situation(...(classes.length > 0 ? classes : [klass()])));

describe('the plan of a hand-out', () => {
  it('says what one each will come to, and makes that', () => {
    const { copies, sentences, oddities, due } = plan({ points: '7.5' });
    expect(copies.map((copy) => copy.student)).toEqual([1, 2, 3, 4].map((n) => student(n).id));
    expect(sentences).toEqual([
      '4 copies will be made, each named for its student in 8A.',
      'It is due Friday 16 October, 11:40.',
      'Your text on the page is guarded: answers go in 3 places.',
      'It counts for 7½ points.',
    ]);
    expect(oddities).toEqual([]);
    expect(due.get(A)).toBe(Date.parse('2026-10-16T10:40:00Z'));
  });

  it('gives an adapted page to those who have one, and tells only how many', () => {
    const adapted = [{ page: ADAPTED, instead: PAGE, students: [student(2).id, student(6).id] }];
    const classes = [{ class: A }, { class: B }];
    const { copies, sentences } = plan({ adapted, classes }, klass(), other);
    expect(sentences[0]).toBe(
      '6 copies will be made, each named for its student in 8A and 8B: 4 of the page and 2 of adapted pages, which only those 2 will see.',
    );
    expect(copies.filter(({ source }) => source === ADAPTED).map((copy) => copy.student)).toEqual([
      student(2).id,
      student(6).id,
    ]);
    expect(sentences[1]).toBe(
      'It is due Friday 16 October, 11:40 in 8A and due Monday 19 October, 11:40 in 8B.',
    );
  });

  it('shares one page in each class, by group, or to read', () => {
    const originals = (delivery: string) => ({ originals: [{ page: PAGE, delivery }] });
    const all = plan(
      { ...originals('one for all'), classes: [{ class: A }, { class: B }] },
      klass(),
      other,
    );
    expect(all.sentences.slice(0, 2)).toEqual([
      '1 page will be shared by 4 students of 8A.',
      '1 page will be shared by 2 students of 8B.',
    ]);
    expect(all.copies.map(({ members }) => members.length)).toEqual([4, 2]);
    expect(plan(originals('to read')).sentences[0]).toBe(
      '4 students will read the page; nobody writes on it.',
    );
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
    expect(grouped.sentences.slice(0, 2)).toEqual([
      '2 pages will be made, one for each group in 8A, for 3 students.',
      '1 student will get a page alone.',
    ]);
    expect(grouped.oddities).toEqual([
      'Eider in 8A has nobody who gets it, so no page is made for it.',
      'Student 4 is in no group of 8A, and gets a page alone.',
    ]);
  });

  it('asks without a page whether something is done', () => {
    const { copies, sentences } = plan({ form: 'done or not', originals: [] });
    expect(sentences[0]).toBe('4 students will be asked to say when it is done; there is no page.');
    expect(new Set(copies.map(({ source }) => source))).toEqual(new Set([id(9)]));
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
    expect(says(at('2026-10-13T11:40'))).toEqual(['It is due in the past.']);
    expect(says(at('2026-10-16T00:00'))).toEqual([
      'It is due at midnight, when the reminder would wake people.',
    ]);
    expect(says(at('2026-10-16T09:00'))).toEqual(['It is due at 09:00, when 8A has no lesson.']);
    expect(says(at('2026-10-17T09:00'))).toEqual([
      '8A has no lesson on Saturday 17 October, when it is due.',
    ]);
    expect(says(at('2062-10-16T11:40'))).toEqual([
      'It is due in 2062, after the term of 8A has ended.',
    ]);
    const later = { ...situation(klass()), goesOut: Date.parse('2026-10-20T09:00:00Z') };
    expect(planHandOut(wish(at('2026-10-16T11:40')), later).oddities).toEqual([
      'It is due in 8A before it goes out.',
    ]);
    expect(says({ due: { kind: 'lesson', nth: 3 } })).toEqual([
      '8A has no 3rd lesson after that, so it has no due time there.',
    ]);
    expect(says({}, klass({ open: false }))).toEqual([
      '8A is closed; its students see it when it opens.',
    ]);
    expect(says({}, klass({ students: [] }))).toEqual(['Nobody in 8A gets it.']);
    const twice = klass({ id: B, name: '8B', students: [student(4), student(5)] });
    expect(says({ classes: [{ class: A }, { class: B }] }, klass(), twice)).toEqual([
      'Student 4 is in 8A and 8B, and gets it once, in 8A.',
    ]);
    expect(
      says({ adapted: [{ page: ADAPTED, instead: PAGE, students: [student(9).id] }] }),
    ).toEqual(['“Beach profile, wider” is meant for 1 student who does not get this.']);
    expect(says({ originals: [{ page: READING, delivery: 'one each' }] })).toEqual([
      '“Words of the shore” has no place for an answer, and its text is guarded: nobody could write on it.',
    ]);
  });

  it('gives every expected student exactly one right to each page, whatever the wish', () => {
    const some = fc.subarray(Array.from({ length: 12 }, (_, n) => student(n)));
    const facts = (key: string, name: string) =>
      fc.record({
        id: fc.constant(key),
        name: fc.constant(name),
        open: fc.boolean(),
        students: some,
        termEnds: fc.constant(0),
        groups: fc.array(
          fc.record({ name: fc.string({ maxLength: 3 }), members: fc.constant<string[]>([]) }),
          { maxLength: 4 },
        ),
        lessons: fc.constant([]),
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
          const given = wish({
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
