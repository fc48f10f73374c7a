import { sql } from 'kysely';
import { OPEN_CLASS } from '../access/class-state';
import type { Grant } from '../access/grant';
import type { Tx } from '../db/transaction';
import { notifyGathered } from '../message/messages';
import { HOLDERS } from './holders';
import { isSeen } from './record-move';
import { IS_ASKED } from './who-is-asked';

/**
 * Tells whom a comment is for: of one by the staff those whose page it is, where they see it; of a student's the staff
 * who spoke in that thread, or, of a new one, those who lead the class.
 */
export async function tellOfComment(
  tx: Tx,
  { thing, person }: Grant<'comment'>,
  thread: string,
): Promise<void> {
  const page = thing.id;
  const fact = {
    kind: 'comments' as const,
    title: thing.title,
    by: person.called || person.given,
    count: 1,
  };
  const notice = { school: thing.school_id, fact, cause: `comments ${crypto.randomUUID()}` };
  if (person.role === 'student') {
    const { rows } = await sql<{ id: string }>`
      select staff.person_id as id from class_staff staff join thread on thread.id = ${thread}
      where staff.class_id = ${thing.class_id} and ${IS_ASKED}`.execute(tx);
    const link =
      thing.kind === 'copy' ? `/classes/${thing.class_id}/marking/${page}` : `/read/${page}`;
    return notifyGathered(tx, { ...notice, people: rows.map(({ id }) => id), link });
  }
  const isCopy = thing.kind === 'copy';
  if (isCopy && !(await isSeen(tx, page))) return;
  const open = await tx
    .selectFrom('page')
    .innerJoin('class', 'class.id', 'page.class_id')
    .select(HOLDERS.as('people'))
    .where('page.id', '=', page)
    .where(OPEN_CLASS)
    .executeTakeFirst();
  if (!open) return;
  await notifyGathered(tx, {
    ...notice,
    people: open.people,
    link: isCopy ? `/work/${page}` : `/read/${page}`,
  });
}
