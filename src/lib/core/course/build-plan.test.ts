import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planBuild, type Destination, type SourcePage } from './build-plan';

const units = ['a', 'b'].map((id) => ({ id, title: `Unit ${id}` }));
const page = (id: string, rest: Partial<SourcePage> = {}): SourcePage => ({
  id,
  unit: 'a',
  kind: 'reading',
  area: null,
  ...rest,
});

describe('what a class begins with', () => {
  it('is what was chosen, where it was chosen to go', () => {
    const pages = [
      page('reading'),
      page('original', { kind: 'original' }),
      page('other', { unit: 'b' }),
      page('loose', { unit: null }),
    ];
    const plan = planBuild(units, pages, {
      units: [{ id: 'a', readings: 'shelf', originals: 'cupboard' }],
      sections: [],
    });
    expect(plan.pages).toEqual([
      { id: 'reading', unit: 'a', area: 'shelf' },
      { id: 'original', unit: 'a', area: 'cupboard' },
    ]);
    expect(plan.units).toEqual([{ from: 'a', title: 'Unit a' }]);
    expect(plan.sentence).toBe(
      '1 unit and 2 pages will be in the class: 1 on the shelf, 0 on the worktable, 1 in the cupboard. Nothing else.',
    );
  });

  it('has sections by hand where they are named, and then a page keeps its unit only by its name', () => {
    const plan = planBuild(units, [page('x'), page('y', { unit: 'b' })], {
      units: units.map(({ id }) => ({ id, readings: 'shelf', originals: 'leave' })),
      sections: ['Autumn', 'Unit b'],
    });
    expect(plan.units.map(({ title }) => title)).toEqual(['Autumn', 'Unit b']);
    expect(plan.pages.map(({ unit }) => unit)).toEqual([null, 'b']);
  });

  it('never brings a page twice, one of a unit that was left out, or a welcome page', () => {
    const destination = fc.constantFrom<Destination>('shelf', 'worktable', 'cupboard', 'leave');
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
        const plan = planBuild(units, pages, { units: chosen, sections: [] });
        expect(new Set(plan.pages.map(({ id }) => id)).size).toBe(plan.pages.length);
        for (const { id } of plan.pages) {
          const source = pages.find((one) => one.id === id);
          expect(chosen.some((unit) => unit.id === source?.unit)).toBe(true);
          expect(source?.area).not.toBe('welcome');
        }
      }),
    );
  });
});
