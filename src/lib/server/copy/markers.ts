import { sql } from 'kysely';
import type { Connection } from '../page/page-store';

export interface Marker {
  id: string;
  name: string;
}

/** Copies: some, or those of an assignment in a class. */
type Which = { pages: readonly string[] } | { assignment: string; class: string };

/** Who marks each of these copies, of the staff of its class now; those that nobody was dealt are left out. */
export async function readMarkers(
  db: Connection,
  which: Which,
): Promise<ReadonlyMap<string, Marker[]>> {
  const rows = await db
    .selectFrom('marker')
    .innerJoin('page', 'page.id', 'marker.page_id')
    .innerJoin('class_staff', (join) =>
      join
        .onRef('class_staff.class_id', '=', 'page.class_id')
        .onRef('class_staff.person_id', '=', 'marker.person_id'),
    )
    .innerJoin('person', 'person.id', 'marker.person_id')
    .select(['marker.page_id', 'person.id', 'person.called', 'person.given'])
    .where(
      'pages' in which
        ? sql<boolean>`page.id = any(${[...which.pages]}::uuid[])`
        : sql<boolean>`page.assignment_id = ${which.assignment} and page.class_id = ${which.class}`,
    )
    .orderBy('person.family')
    .orderBy('person.given')
    .orderBy('person.id')
    .execute();
  const markers = new Map<string, Marker[]>();
  for (const { page_id, id, called, given } of rows)
    markers.set(page_id, [...(markers.get(page_id) ?? []), { id, name: called || given }]);
  return markers;
}

/** The staff of a class, by name. */
export async function readStaff(
  db: Connection,
  klass: string,
): Promise<(Marker & { kind: string })[]> {
  const rows = await db
    .selectFrom('class_staff')
    .innerJoin('person', 'person.id', 'class_staff.person_id')
    .select(['person.id', 'person.called', 'person.given', 'class_staff.kind'])
    .where('class_staff.class_id', '=', klass)
    .orderBy('person.family')
    .execute();
  return rows.map(({ id, called, given, kind }) => ({ id, kind, name: called || given }));
}
