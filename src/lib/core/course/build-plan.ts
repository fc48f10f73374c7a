import { z } from 'zod';

/** Where the pages of a unit go in a new class; "leave" for nowhere. */
export const Destination = z.enum(['shelf', 'worktable', 'cupboard', 'leave']);
export type Destination = z.infer<typeof Destination>;

export interface SourceUnit {
  /** Null for what stands in no unit. */
  id: string | null;
  title: string;
}

export interface SourcePage {
  id: string;
  unit: string | null;
  kind: 'original' | 'reading' | 'class page';
  /** Of a class page: where it lay. */
  area: 'shelf' | 'worktable' | 'cupboard' | 'welcome' | null;
}

export interface BuildSpec {
  /** For each chosen unit, where its readings and its originals go. A unit that is not named is left out. */
  units: { id: string | null; readings: Destination; originals: Destination }[];
  /** Names of the students' workbook sections; empty to follow the chosen units. */
  sections: string[];
}

/** What will be in the class, and nothing else. */
export interface BuildPlan {
  units: { from: string | null; title: string }[];
  pages: { id: string; unit: string | null; area: 'shelf' | 'worktable' | 'cupboard' }[];
  sentence: string;
}

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** Whether a page is what copies are made from: an original, or what lay where staff alone saw it. */
export const isForCopies = ({ kind, area }: Pick<SourcePage, 'kind' | 'area'>): boolean =>
  kind === 'original' || area === 'cupboard';

/** Works out which units and pages come. */
export function planBuild(
  units: readonly SourceUnit[],
  pages: readonly SourcePage[],
  spec: BuildSpec,
): BuildPlan {
  const specs = new Map(spec.units.map((unit) => [unit.id, unit]));
  const coming = pages.flatMap((page) => {
    const unit = specs.get(page.unit);
    if (!unit || page.area === 'welcome') return [];
    const area = isForCopies(page) ? unit.originals : unit.readings;
    return area === 'leave' ? [] : [{ id: page.id, unit: page.unit, area }];
  });
  const byHand = spec.sections.length > 0;
  const chosen = units.filter(({ id }) => id !== null && specs.has(id));
  const made = byHand
    ? spec.sections.map((title) => ({
        from: chosen.find((unit) => unit.title === title)?.id ?? null,
        title,
      }))
    : chosen.map(({ id, title }) => ({ from: id, title }));
  const placed = new Set(made.map(({ from }) => from));
  const lying = (area: Destination) => coming.filter((page) => page.area === area).length;
  return {
    units: made,
    // Where sections were named by hand, a page whose unit did not come stands in none.
    pages: coming.map((page) => ({ ...page, unit: placed.has(page.unit) ? page.unit : null })),
    sentence: `${count(made.length, 'unit')} and ${count(coming.length, 'page')} will be in the class: ${lying('shelf')} on the shelf, ${lying('worktable')} on the worktable, ${lying('cupboard')} in the cupboard. Nothing else.`,
  };
}
