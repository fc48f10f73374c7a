import { z } from 'zod';
import type { CopyRow } from '$core/copy/copy-row';
import {
  goOnAt,
  inLine,
  LINE_ORDERS,
  lineUp,
  type InLine,
  type LineOrder,
} from '$core/marking/marking-line';
import type { Grant } from '../access/grant';
import { readStudents, type BoardStudent } from '../class/board';
import { readFirstGroups } from '../class/groups';
import { Refusal } from '../page/refusal';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';
import { readCopies } from './facts';
import { readMarkers, type Marker } from './markers';
import { hasGiven, readMarkedApart } from './scores-apart';

export const MarkingPlace = z.object({
  page: z.uuid(),
  order: z.enum(Object.keys(LINE_ORDERS) as [LineOrder, ...LineOrder[]]),
  unmarkedOnly: z.boolean(),
  /** Copies that are dealt to others, too. */
  all: z.boolean(),
});
type MarkingPlace = z.infer<typeof MarkingPlace>;

/** Where somebody was in an assignment's copies of a class, and how they went through them; null where they never did. */
export async function readMarkingPlace(
  db: Connection,
  { person, assignment, klass }: { person: string; assignment: string; klass: string },
): Promise<MarkingPlace | null> {
  const row = await db
    .selectFrom('marking_place')
    .select([
      'page_id as page',
      'line_order as order',
      'unmarked_only as unmarkedOnly',
      'all_copies as all',
    ])
    .where('person_id', '=', person)
    .where('assignment_id', '=', assignment)
    .where('class_id', '=', klass)
    .executeTakeFirst();
  return row ?? null;
}

/** Remembers it, for whoever marks. @throws Refusal where the page is none of these copies */
export async function saveMarkingPlace(
  app: Using<'db'>,
  { thing, person }: Grant<'mark its copies'>,
  { page, order, unmarkedOnly, all }: MarkingPlace,
): Promise<void> {
  const found = await app.db
    .selectFrom('page')
    .select('id')
    .where('id', '=', page)
    .where('kind', '=', 'copy')
    .where('assignment_id', '=', thing.id)
    .where('class_id', '=', thing.class.id)
    .executeTakeFirst();
  if (!found) throw new Refusal(404, 'There is no such copy in this class.');
  const place = {
    page_id: page,
    line_order: order,
    unmarked_only: unmarkedOnly,
    all_copies: all,
  };
  const { id: assignment_id, school_id, class: klass } = thing;
  await app.db
    .insertInto('marking_place')
    .values({ person_id: person.id, assignment_id, class_id: klass.id, school_id, ...place })
    .onConflict((conflict) =>
      conflict.columns(['person_id', 'assignment_id', 'class_id']).doUpdateSet(place),
    )
    .execute();
}

/** A copy of the line, for whoever goes through it. */
export interface LineEntry extends InLine {
  copy: CopyRow;
  markers: readonly Marker[];
  given: boolean;
}

interface OfClass {
  students: readonly BoardStudent[];
  /** The names of their groups. */
  groups: ReadonlyMap<string, string>;
  markers: ReadonlyMap<string, readonly Marker[]>;
}

/** Copies of an assignment in a class, in the order of their students' names; a shared copy stands at its first. */
export async function lineOf(
  db: Connection,
  { students, groups, markers }: OfClass,
  copies: readonly CopyRow[],
  viewer: string,
): Promise<LineEntry[]> {
  const apart = await readMarkedApart(db, copies, markers);
  return students.flatMap((student) => {
    const copy = copies.find(({ members }) => members.includes(student.id));
    const first = students.find(({ id }) => copy?.members.includes(id));
    if (!copy || first?.id !== student.id) return [];
    const group = copy.student ? (groups.get(student.id) ?? '') : copy.group;
    const name = copy.student ? student.name : copy.group || 'The whole class';
    const given = hasGiven(apart.get(copy.id), viewer);
    return [{ copy, name, group, markers: markers.get(copy.id) ?? [], given }];
  });
}

/** All copies of an assignment in a class that are worked on, original by original. */
export async function readLine(
  db: Connection,
  { assignment, klass }: { assignment: string; klass: string },
  viewer: string,
): Promise<LineEntry[]> {
  const of = { assignment, class: klass };
  const copies = await readCopies(db, of, viewer);
  const worked = copies.filter(({ delivery }) => delivery !== 'to read');
  const ofClass = {
    students: await readStudents(db, klass),
    groups: await readFirstGroups(db, klass),
    markers: await readMarkers(db, of),
  };
  const line: LineEntry[] = [];
  for (const original of new Set(worked.map((copy) => copy.for))) {
    const theirs = worked.filter((copy) => copy.for === original);
    line.push(...(await lineOf(db, ofClass, theirs, viewer)));
  }
  return line;
}

/** The copy at which somebody goes on marking; null where nobody of the class has one. */
export async function whereToMark(
  app: Using<'db'>,
  { thing, person }: Grant<'see the assignment'>,
): Promise<string | null> {
  const klass = thing.class.id;
  const line = await readLine(app.db, { assignment: thing.id, klass }, person.id);
  const place = await readMarkingPlace(app.db, { person: person.id, assignment: thing.id, klass });
  const formed = lineUp(line, place?.order ?? 'waiting');
  const current = place?.page ?? '';
  const dealtTo = place?.all ? null : person.id;
  return goOnAt(inLine(line, formed, { unmarkedOnly: false, dealtTo, current }), current);
}
