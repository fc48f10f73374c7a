import { sql } from 'kysely';
import { Step } from 'prosemirror-transform';
import type { Node } from 'prosemirror-model';
import { without } from '$core/history/without';
import { schema } from '$core/page/schema';
import type { Tx } from '../db/transaction';
import { readPage, readSteps } from '../page/page-store';

/**
 * Pages that students have written in, as they would be if none had: what goes along to another class or into a course.
 * Other pages are not among them.
 */
export async function readStaffParts(tx: Tx, pages: readonly string[]): Promise<Map<string, Node>> {
  const { rows } = await sql<{ id: string }>`
    select id from page where id = any(${pages}::uuid[]) and kind = 'class page' and exists (
      select from step_writer join person on person.id = author_id
      where page_id = page.id and person.role = 'student')`.execute(tx);
  const parts = new Map<string, Node>();
  for (const { id } of rows) {
    const page = await tx
      .selectFrom('page')
      .select(['id', 'version', 'source_id', 'source_version'])
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
    const { rows: students } = await sql<{ id: string }>`select distinct author_id as id
      from step_writer join person on person.id = author_id
      where page_id = ${id} and person.role = 'student'`.execute(tx);
    const unwanted = students.map((student) => student.id);
    const start = (await readPage(tx, page, 0)).doc;
    const logged = (await readSteps(tx, id, 0, page.version)).map(({ body, author_id }) => ({
      step: Step.fromJSON(schema, body),
      unwanted: unwanted.includes(author_id),
    }));
    parts.set(id, without(start, logged));
  }
  return parts;
}
