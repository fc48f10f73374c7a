import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { withoutNames } from '$core/copy/without-names';
import { readPage, type Connection } from '../page/page-store';

/** A copy as it stood in a version, without the names of those whose it is, or was. */
export async function readNameless(
  db: Connection,
  copy: { id: string; source_id: string | null; source_version: number | null },
  version: number,
): Promise<Node> {
  // Theirs, too, who have left.
  const people = await db
    .selectFrom('person')
    .select(['given', 'family', 'called'])
    .where(
      sql<boolean>`person.id in (select student_id from page where page.id = ${copy.id}
        union select person_id from page_member where page_id = ${copy.id})`,
    )
    .execute();
  const names = people.flatMap(({ given, family, called }) => [given, family, called]);
  const { doc } = await readPage(db, { ...copy, version }, version);
  return withoutNames(doc, names);
}
