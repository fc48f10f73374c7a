import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lessonsAfter, type Timetable } from '../calendar/lessons';
import { readLocalTime } from '../calendar/local-time';
import {
  Destination,
  planBuild,
  type BuildSpec,
  type SourceAssignment,
  type SourcePage,
} from './build-plan';

const units = ['a', 'b'].map((id) => ({ id, title: `Unit ${id}` }));
const page = (id: string, rest: Partial<SourcePage> = {}): SourcePage => ({
  id,
  unit: 'a',
  kind: 'reading',
  area: null,
  ...rest,
});

/** Lessons on Mondays, for so many weeks from a Monday. */
const mondays = (starts: string, ends: string): Timetable => ({
  timeZone: 'Europe/Dublin',
  slots: [{ weekday: 1, starts: '09:00', ends: '09:50' }],
  holidays: [],
  term: { starts, ends },
});
const was = mondays('2026-09-07', '2026-12-14');
const now = { lessons: mondays('2027-09-06', '2027-10-11'), has: [] as string[] };
/** What comes of pages alone. */
const plan = (pages: SourcePage[], spec: Omit<BuildSpec, 'assignments' | 'rules'>) =>
  planBuild(
    { units, pages, assignments: [], timetable: null, rules: null },
    { ...spec, assignments: [], rules: false },
    now,
  );
const work = (id: string, rest: Partial<SourceAssignment> = {}): SourceAssignment => ({
  id,
  title: `Work ${id}`,
  unit: 'a',
  due: { kind: 'none' },
  copies: [],
  chosen: false,
  losesRubric: false,
  ...rest,
});
const at = (local: string) => ({
  kind: 'at' as const,
  at: readLocalTime(local, 'Europe/Dublin') ?? NaN,
});

describe('what a class begins with', () => {
  it('is what was chosen, where it was chosen to go', () => {
    const pages = [
      page('reading'),
      page('original', { kind: 'original' }),
      page('other', { unit: 'b' }),
      page('loose', { unit: null }),
    ];
    const made = plan(pages, {
      units: [{ id: 'a', readings: 'shelf', originals: 'cupboard' }],
      sections: [],
    });
    expect(made.pages).toEqual([
      { id: 'reading', unit: 'a', area: 'shelf' },
      { id: 'original', unit: 'a', area: 'cupboard' },
    ]);
    expect(made.units).toEqual([{ from: 'a', title: 'Unit a' }]);
    expect(made.sentence).toBe(
      '1 unit and 2 pages will come into the class: 1 on the shelf, 0 on the worktable, 1 in the cupboard. Nothing else.',
    );
  });

  it('lies where it lay in the class before, if that is wanted', () => {
    const pages = (['shelf', 'worktable', 'cupboard', null] as const).map((area, n) =>
      page(`${n}`, { kind: 'class page', area }),
    );
    const made = plan(pages, {
      units: [{ id: 'a', readings: 'same', originals: 'same' }],
      sections: [],
    });
    expect(made.pages.map(({ area }) => area)).toEqual(['shelf', 'worktable', 'cupboard', 'shelf']);
  });

  it('is not brought once more where it came before', () => {
    const made = planBuild(
      {
        units,
        pages: [page('x'), page('y')],
        assignments: [work('1', { copies: ['y', 'z'] })],
        timetable: null,
        rules: null,
      },
      {
        units: [{ id: 'a', readings: 'shelf', originals: 'leave' }],
        assignments: ['1'],
        rules: false,
        sections: [],
      },
      { ...now, has: ['x', 'z'] },
    );
    expect(made.pages.map(({ id }) => id)).toEqual(['y']);
  });

  it('has sections by hand where they are named, and then a page keeps its unit only by its name', () => {
    const made = plan([page('x'), page('y', { unit: 'b' })], {
      units: units.map(({ id }) => ({ id, readings: 'shelf', originals: 'leave' })),
      sections: ['Autumn', 'Unit b'],
    });
    expect(made.units.map(({ title }) => title)).toEqual(['Autumn', 'Unit b']);
    expect(made.pages.map(({ unit }) => unit)).toEqual([null, 'b']);
  });

  it('never brings a page twice, one of a unit that was left out, or a welcome page', () => {
    const destination = fc.constantFrom(...Destination.options);
    const some = fc.uniqueArray(
      fc.record({
        id: fc.uuid(),
        unit: fc.constantFrom('a', 'b', null),
        kind: fc.constantFrom('original' as const, 'reading' as const, 'class page' as const),
        area: fc.constantFrom('shelf' as const, 'cupboard' as const, 'welcome' as const, null),
      }),
      { selector: ({ id }) => id },
    );
    const specs = fc.uniqueArray(
      fc.record({
        id: fc.constantFrom('a', 'b', null),
        readings: destination,
        originals: destination,
      }),
      { selector: ({ id }) => id },
    );
    fc.assert(
      fc.property(some, specs, (pages, chosen) => {
        const made = plan(pages, { units: chosen, sections: [] });
        expect(new Set(made.pages.map(({ id }) => id)).size).toBe(made.pages.length);
        for (const { id } of made.pages) {
          const source = pages.find((one) => one.id === id);
          expect(chosen.some((unit) => unit.id === source?.unit)).toBe(true);
          expect(source?.area).not.toBe('welcome');
        }
      }),
    );
  });
});

describe('the assignments of the class before', () => {
  const both = units.map(({ id }) => ({
    id,
    readings: 'leave' as const,
    originals: 'leave' as const,
  }));
  const build = (assignments: SourceAssignment[], spec: Partial<BuildSpec> = {}) =>
    planBuild(
      {
        units,
        pages: [page('p', { area: 'cupboard', kind: 'class page' })],
        assignments,
        timetable: was,
        rules: null,
      },
      {
        units: both,
        assignments: assignments.map(({ id }) => id),
        rules: false,
        sections: [],
        ...spec,
      },
      now,
    );

  it('come with their due times at the same lesson, and those without a counterpart are named', () => {
    expect(lessonsAfter(now.lessons, 0)).toHaveLength(6);
    const made = build([
      work('1', { due: at('2026-09-07T09:50') }),
      work('2', { due: at('2026-10-12T23:00') }),
      work('3', { due: at('2026-10-19T09:50') }),
      work('4', { due: { kind: 'lesson', nth: 2 } }),
      work('5'),
      work('6', { due: at('2026-09-01T12:00') }),
    ]);
    expect(made.assignments.map(({ due }) => due)).toEqual([
      { kind: 'at', local: '2027-09-06T09:50' },
      { kind: 'at', local: '2027-10-11T23:00' },
      { kind: 'none' },
      { kind: 'lesson', nth: 2 },
      { kind: 'none' },
      { kind: 'none' },
    ]);
    expect(made.undated).toEqual(['Work 3', 'Work 6']);
    expect(made.sentence).toBe(
      '2 units, 0 pages and 6 assignments will come into the class: 0 on the shelf, 0 on the worktable, 0 in the cupboard, the assignments as drafts. Nothing else.',
    );
  });

  it('bring the pages that they hand out, once, also where the pages of the unit stay behind', () => {
    const works = [work('1', { copies: ['p', 'q'] }), work('2', { copies: ['q'], unit: 'b' })];
    expect(build(works).pages.map(({ id, area }) => [id, area])).toEqual([
      ['p', 'cupboard'],
      ['q', 'cupboard'],
    ]);
    const kept = both.map((unit) => ({ ...unit, originals: 'worktable' as const }));
    expect(build(works, { units: kept }).pages.map(({ id, area }) => [id, area])).toEqual([
      ['p', 'worktable'],
      ['q', 'cupboard'],
    ]);
  });

  it('come only when they are chosen, in a unit that is', () => {
    const works = [work('1'), work('2', { unit: 'b', copies: ['q'] }), work('3', { unit: null })];
    const onlyA = build(works, { units: both.slice(0, 1) });
    expect(onlyA.assignments.map(({ id }) => id)).toEqual(['1']);
    expect(onlyA.pages).toEqual([]);
    expect(build(works, { assignments: ['2'] }).assignments.map(({ id }) => id)).toEqual(['2']);
  });

  it('have no due time where the class before had no lessons', () => {
    const made = planBuild(
      {
        units,
        pages: [],
        assignments: [work('1', { due: at('2026-09-07T09:50') })],
        timetable: null,
        rules: null,
      },
      { units: both, assignments: ['1'], rules: false, sections: [] },
      now,
    );
    expect(made.undated).toEqual(['Work 1']);
  });
});
