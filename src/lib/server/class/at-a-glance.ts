import { asksForWork } from '$core/copy/state';
import { itemFigures, type ItemFigures } from '$core/marking/item-figures';
import { samePoints } from '$core/marking/points';
import { stepsOf } from '$core/marking/rubric-steps';
import { mostOf, pointsOfPart, shareOfPart } from '$core/marking/sum-parts';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import { readScorings, type GivenScoring } from '../copy/scorings';
import type { Database } from '../db/connect';
import { readStudents } from './board';

/** A copy that has points, or is scored in part. */
interface GlancedCopy {
  id: string;
  name: string;
  points: string | null;
}

/** A criterion or a part, and which copies got how many points for it: from the fewest to the most. */
interface GlancedItem {
  id: string;
  label: string;
  levels: { points: string; copies: string[] }[];
  /** Of a part. */
  figures: ItemFigures | null;
}

export interface Glance {
  title: string;
  most: string | null;
  copies: GlancedCopy[];
  criteria: GlancedItem[];
  parts: GlancedItem[];
}

/** What a class got for an assignment: its points, each criterion of the rubric, and each part that was scored. */
export async function viewGlance(
  db: Database,
  { thing, person }: Grant<'see the assignment'>,
): Promise<Glance> {
  const of = { class: thing.class.id, assignment: thing.id };
  const [assignment, students, all] = await Promise.all([
    db
      .selectFrom('assignment')
      .select(['title', 'points'])
      .where('id', '=', thing.id)
      .executeTakeFirstOrThrow(),
    readStudents(db, of.class),
    readCopies(db, of, person.id),
  ]);
  const scored = all.filter((copy) => asksForWork(copy) && copy.score !== null);
  const scorings = await readScorings(
    db,
    scored.flatMap(({ score }) => score ?? []),
  );
  const nameOf = (members: readonly string[]) =>
    students
      .filter(({ id }) => members.includes(id))
      .map((one) => `${one.given} ${one.family}`)
      .join(', ');
  const given = scored.map((copy) => ({ copy, given: scorings.get(copy.score ?? '') ?? null }));
  return {
    title: assignment.title,
    most: assignment.points,
    copies: scored
      .map(({ id, members, points }) => ({ id, points, name: nameOf(members) }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    criteria: criteriaOf(given),
    parts: partsOf(given),
  };
}

type Given = readonly { copy: { id: string }; given: GivenScoring | null }[];

/** The criteria as the rubric stood when the last copy was scored. */
function criteriaOf(all: Given): GlancedItem[] {
  const scorings = all.flatMap(({ copy, given }) =>
    given?.scoring ? [{ copy: copy.id, scoring: given.scoring, at: given.at }] : [],
  );
  const table = scorings.reduce((last, one) => (last && last.at > one.at ? last : one), scorings[0])
    ?.scoring.rubric.table;
  if (!table) return [];
  const steps = stepsOf(table);
  return table.criteria.map(({ id, title }) => ({
    id,
    label: title,
    figures: null,
    levels: steps.map(({ points }) => ({
      points,
      copies: scorings.flatMap(({ copy, scoring }) =>
        scoring.criteria.some((one) => one.id === id && one.points === points) ? [copy] : [],
      ),
    })),
  }));
}

function partsOf(all: Given): GlancedItem[] {
  const checks = all.flatMap(({ copy, given }) =>
    given?.checked ? [{ copy: copy.id, parts: given.checked.parts }] : [],
  );
  const parts = new Map(
    checks.flatMap(({ parts: some }) => some.map((part) => [part.id, part] as const)),
  );
  const ids = [...parts.values()].sort((a, b) => a.number - b.number);
  const find = (some: (typeof checks)[number]['parts'], id: string) => {
    const part = some.find((one) => one.id === id);
    return part ? { points: pointsOfPart(part), most: mostOf(part) } : null;
  };
  const figures = itemFigures(
    checks.map(({ parts: some }) =>
      ids.map(({ id }) => shareOfPart(some.find((one) => one.id === id))),
    ),
  );
  return ids.map(({ id, number, label, ...part }, index) => {
    const own = checks.flatMap(({ copy, parts: some }) => {
      const points = find(some, id)?.points ?? null;
      return points === null ? [] : [{ copy, points }];
    });
    const values = [
      ...new Set(['0', mostOf({ id, number, label, ...part }), ...own.map((one) => one.points)]),
    ];
    return {
      id,
      label: `${number} · ${label}`,
      figures: figures[index] ?? null,
      levels: values
        .filter((one, at) => values.findIndex((other) => samePoints(one, other)) === at)
        .sort((a, b) => Number(a) - Number(b))
        .map((points) => ({
          points,
          copies: own.filter((one) => samePoints(one.points, points)).map(({ copy }) => copy),
        })),
    };
  });
}
