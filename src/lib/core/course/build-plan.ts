import { z } from 'zod';
import { writeLocalTime } from '../calendar/local-time';
import type { Timetable } from '../calendar/lessons';
import { TermLessons } from '../calendar/term-place';
import type { DueSpec } from '../handout/spec';
import type { GradeRules } from '../grades/rules';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';

/** Where a page lies in a class. */
type Area = 'shelf' | 'worktable' | 'cupboard';

/** Where the pages of a unit go in a new class: "same" for where each lay in the class before, "leave" for nowhere. */
export const Destination = z.enum(['shelf', 'worktable', 'cupboard', 'same', 'leave']);
export type Destination = z.infer<typeof Destination>;

interface SourceUnit {
  /** Null for what stands in no unit. */
  id: string | null;
  title: string;
}

export interface SourcePage {
  id: string;
  unit: string | null;
  kind: 'original' | 'reading' | 'class page';
  /** Of a class page: where it lay. */
  area: Area | 'welcome' | null;
}

/** Work that was set, or is about to be, in the class that another is built from. */
export interface SourceAssignment {
  id: string;
  title: string;
  unit: string | null;
  /** At an instant (epoch milliseconds), or at the end of so many lessons after it goes out. */
  due: { kind: 'none' } | { kind: 'at'; at: number } | { kind: 'lesson'; nth: number };
  /** Those of its pages that the new class cannot use where they lie: fresh copies of them come. */
  copies: readonly string[];
  /** Whether only some of its class's students got it. */
  chosen: boolean;
  /** Whether it comes without its rubric, because that stays behind. */
  losesRubric: boolean;
}

/** What a class is built from. */
export interface Source {
  units: readonly SourceUnit[];
  pages: readonly SourcePage[];
  assignments: readonly SourceAssignment[];
  /** Of a class: by which its due times are counted. */
  timetable: Timetable | null;
  /** How a class counts its points; null where nobody has said it. */
  rules: GradeRules | null;
}

export interface BuildSpec {
  /** For each chosen unit, where its readings and its originals go. A unit that is not named is left out. */
  units: { id: string | null; readings: Destination; originals: Destination }[];
  /** The assignments that come as drafts. */
  assignments: readonly string[];
  /** Whether points count as they do there. */
  rules: boolean;
  /** Names of the students' workbook sections; empty to follow the chosen units. */
  sections: string[];
}

/** The class that is built, as it is. */
export interface BuildTarget {
  lessons: Timetable;
  /** The pages that came into it before, as they are named where they come from. */
  has: readonly string[];
}

/** What will come into the class, and nothing else. */
export interface BuildPlan {
  units: { from: string | null; title: string }[];
  pages: { id: string; unit: string | null; area: Area }[];
  /** Each a draft, in the order of their due times there. */
  assignments: {
    id: string;
    title: string;
    unit: string | null;
    due: DueSpec;
    /** Whether it had a due time that has no counterpart here. */
    undated: boolean;
  }[];
  /** Their titles, of those that are undated. */
  undated: string[];
  /** Pages of which a copy is handed out in their place; all others are handed out where they lie. */
  copies: string[];
  /** How it counts points from then on; null for as it does. */
  rules: GradeRules | null;
  sentence: string;
}

/** Whether a page is what copies are made from: an original, or what lay where staff alone saw it. */
export const isForCopies = ({ kind, area }: Pick<SourcePage, 'kind' | 'area'>): boolean =>
  kind === 'original' || area === 'cupboard';

/** The due time of a new class for each of another's: lessons are counted, holidays are where the new calendar has them. */
function dueIn(timetable: Timetable, source: Timetable | null) {
  const [here, there] = [new TermLessons(timetable), source && new TermLessons(source)];
  return (due: SourceAssignment['due']): DueSpec => {
    if (due.kind !== 'at') return due;
    const at = there && here.counterpart(there, due.at);
    return at === null
      ? { kind: 'none' }
      : { kind: 'at', local: writeLocalTime(at, timetable.timeZone) };
  };
}

/** Works out which units, pages and assignments come into a class. A page that came before is not brought once more. */
export function planBuild(
  { units, pages, assignments, timetable, rules }: Source,
  spec: BuildSpec,
  { lessons, has }: BuildTarget,
): BuildPlan {
  const there = new Set(has);
  const specs = new Map(spec.units.map((unit) => [unit.id, unit]));
  const chosen = pages.flatMap((page): BuildPlan['pages'] => {
    const unit = specs.get(page.unit);
    if (!unit || page.area === 'welcome' || there.has(page.id)) return [];
    const [to, usual] = isForCopies(page)
      ? [unit.originals, 'cupboard' as const]
      : [unit.readings, 'shelf' as const];
    if (to === 'leave') return [];
    return [{ id: page.id, unit: page.unit, area: to === 'same' ? (page.area ?? usual) : to }];
  });
  const works = assignments.filter(
    ({ id, unit }) => specs.has(unit) && spec.assignments.includes(id),
  );
  // What an assignment hands out comes along, also where the pages of its unit stay behind.
  const needed = new Map(
    works.flatMap(({ copies, unit }) =>
      copies
        .filter((id) => !there.has(id))
        .map((id) => [id, { id, unit, area: 'cupboard' as const }]),
    ),
  );
  for (const { id } of chosen) needed.delete(id);
  const coming = [...chosen, ...needed.values()];
  const ofChoice = units.filter(({ id }) => id !== null && specs.has(id));
  const made =
    spec.sections.length > 0
      ? spec.sections.map((title) => ({
          from: ofChoice.find((unit) => unit.title === title)?.id ?? null,
          title,
        }))
      : ofChoice.map(({ id, title }) => ({ from: id, title }));
  const placed = new Set(made.map(({ from }) => from));
  // Where sections were named by hand, what stood in a unit that did not come stands in none.
  const unitOf = ({ unit }: { unit: string | null }) => (placed.has(unit) ? unit : null);
  const due = dueIn(lessons, timetable);
  const drafts = works.map((work) => {
    const here = due(work.due);
    return {
      id: work.id,
      title: work.title,
      unit: unitOf(work),
      due: here,
      undated: work.due.kind === 'at' && here.kind === 'none',
    };
  });
  return {
    units: made,
    pages: coming.map((page) => ({ ...page, unit: unitOf(page) })),
    assignments: drafts,
    undated: drafts.flatMap(({ title, undated }) => (undated ? title : [])),
    copies: [...new Set(works.flatMap(({ copies }) => copies))],
    rules: spec.rules ? rules : null,
    sentence: say(made.length, coming, drafts.length),
  };
}

function say(units: number, pages: BuildPlan['pages'], drafts: number): string {
  const lying = (area: Area) => pages.filter((page) => page.area === area).length;
  const things = [counted(units, 'unit'), counted(pages.length, 'page')];
  const places = [
    `${lying('shelf')} on the shelf`,
    `${lying('worktable')} on the worktable`,
    `${lying('cupboard')} in the cupboard`,
  ];
  if (drafts > 0) {
    things.push(counted(drafts, 'assignment'));
    places.push(drafts === 1 ? 'the assignment as a draft' : 'the assignments as drafts');
  }
  return `${listed(things)} will come into the class: ${places.join(', ')}. Nothing else.`;
}
