import { sql } from 'kysely';
import { OPEN_CLASS } from '../access/class-state';
import type { Grant } from '../access/grant';
import type { PageThing } from '../access/relation';
import type { Tx } from '../db/transaction';
import { notify, notifyGathered } from '../message/messages';
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
  await notifyGathered(tx, { ...notice, ...(await findHolders(tx, thing)) });
}

/** Whose page it is, and where they find it; nobody where they do not see it. */
async function findHolders(tx: Tx, thing: PageThing) {
  const isCopy = thing.kind === 'copy';
  const link = `${isCopy ? '/work' : '/read'}/${thing.id}`;
  if (isCopy && !(await isSeen(tx, thing.id))) return { people: [], link };
  const open = await tx
    .selectFrom('page')
    .innerJoin('class', 'class.id', 'page.class_id')
    .select(HOLDERS.as('people'))
    .where('page.id', '=', thing.id)
    .where(OPEN_CLASS)
    .executeTakeFirst();
  return { people: open?.people ?? [], link };
}

/** Tells those whose copy it is how many proposals one of the staff made. */
export async function tellOfProposals(
  tx: Tx,
  { thing, person }: Grant<'mark'>,
  count: number,
): Promise<void> {
  const by = person.called || person.given;
  await notifyGathered(tx, {
    ...(await findHolders(tx, thing)),
    school: thing.school_id,
    fact: { kind: 'proposals', title: thing.title, by, count },
    cause: `proposals ${crypto.randomUUID()}`,
  });
}

/** In milliseconds: who wrote in a copy and goes on is told of once in this time. */
const ONCE_IN = 3_600_000;

/** Tells those whose copy it is that one of the staff wrote in it. */
export async function tellOfWriting(
  tx: Tx,
  { thing, person }: Grant<'write the page'>,
): Promise<void> {
  const cause = `written in ${thing.id} ${person.id} ${Math.floor(Date.now() / ONCE_IN)}`;
  await notify(tx, {
    ...(await findHolders(tx, thing)),
    school: thing.school_id,
    fact: { kind: 'written in', title: thing.title, by: person.called || person.given },
    // Who is known to have been told is not told again.
    cause,
  });
}
