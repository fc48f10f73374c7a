import { isWithTeacher, stateOf } from '$core/copy/state';
import { isMarkedApart } from '$core/marking/apart';
import type { Scoring } from '$core/marking/scoring';
import type { Grant } from '../access/grant';
import { readStudents } from '../class/board';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readCopies } from './facts';
import { readMarkers } from './markers';
import { readPointsOf, readRubricOf, readScorings } from './scorings';

/** A copy as one of its rubric’s criteria is scored across the class. */
export interface CriterionCopy {
  page: string;
  /** Whose it is, by their names. */
  names: string;
  doc: object;
  scoring: Scoring | null;
  /** The last score: an id. */
  score: string | null;
  /** Why it differs from what the copy had before. */
  why: string;
}

/**
 * The copies of an assignment that are with the teacher, by their students’ names, to be scored criterion by criterion; without
 * those that two mark apart.
 * @throws Refusal where it has no rubric
 */
export async function viewByCriterion(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'mark its copies'>,
): Promise<{
  rubric: Scoring['rubric'];
  most: string | null;
  copies: CriterionCopy[];
  /** How many two mark apart. */
  apart: number;
}> {
  const { db, pages } = app;
  const of = { class: thing.class.id, assignment: thing.id };
  const rubric = await readRubricOf(db, thing.id);
  if (!rubric) throw new Refusal(409, 'This assignment is not scored by a rubric.');
  const [students, all, markers, most] = await Promise.all([
    readStudents(db, of.class),
    readCopies(db, of, person.id),
    readMarkers(db, of),
    readPointsOf(db, thing.id),
  ]);
  const here = all.filter(
    ({ delivery, facts }) => delivery !== 'to read' && isWithTeacher(stateOf(facts)),
  );
  const some = here.filter(({ id, facts }) => !isMarkedApart(markers.get(id) ?? [], facts));
  const given = await readScorings(
    db,
    some.flatMap(({ score }) => score ?? []),
  );
  const place = new Map(students.map(({ id }, index) => [id, index]));
  const first = (members: readonly string[]) =>
    Math.min(...members.map((id) => place.get(id) ?? students.length));
  some.sort((a, b) => first(a.members) - first(b.members));
  const copies: CriterionCopy[] = [];
  for (const copy of some) {
    const { doc } = await pages.open(copy.id);
    const last = copy.score === null ? null : given.get(copy.score);
    const names = students.filter(({ id }) => copy.members.includes(id));
    copies.push({
      page: copy.id,
      names: names.map((one) => `${one.given} ${one.family}`).join(', '),
      doc: doc.toJSON() as object,
      scoring: last?.scoring ?? null,
      score: copy.score,
      why: last?.why ?? '',
    });
  }
  return { rubric, most, copies, apart: here.length - some.length };
}
