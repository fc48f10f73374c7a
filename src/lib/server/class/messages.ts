import type { MailRule } from '$core/calendar/mail-times';
import type { Connection } from '../page/page-store';

export interface Tidings {
  school: number;
  people: readonly string[];
  subject: string;
  text: string;
  /** Where it leads, from the root of Uncia. */
  link: string;
  /** What it tells of: nobody is told of the same thing twice. */
  cause: string;
}

/** Puts a message into each person's mailbox. */
export async function tell(db: Connection, tidings: Tidings): Promise<void> {
  const { people, school, ...message } = tidings;
  if (people.length === 0) return;
  await db
    .insertInto('message')
    .values(people.map((person_id) => ({ ...message, school_id: school, person_id })))
    .onConflict((conflict) => conflict.columns(['person_id', 'cause']).doNothing())
    .execute();
}

/** A person's messages, newest first. */
export const readMailbox = (db: Connection, person: string) =>
  db
    .selectFrom('message')
    .select(['id', 'at', 'subject', 'text', 'link', 'read_at'])
    .where('person_id', '=', person)
    .orderBy('at', 'desc')
    .limit(500)
    .execute();

export async function countUnread(db: Connection, person: string): Promise<number> {
  const { n } = await db
    .selectFrom('message')
    .select((eb) => eb.cast<number>(eb.fn.countAll(), 'integer').as('n'))
    .where('person_id', '=', person)
    .where('read_at', 'is', null)
    .executeTakeFirstOrThrow();
  return n;
}

export const markRead = (db: Connection, person: string) =>
  db
    .updateTable('message')
    .set({ read_at: new Date() })
    .where('person_id', '=', person)
    .where('read_at', 'is', null)
    .execute();

/** Marks a person's own message as read. @returns where it leads; null when it is not hers */
export async function openMessage(
  db: Connection,
  person: string,
  message: string,
): Promise<string | null> {
  const row = await db
    .updateTable('message')
    .set((eb) => ({ read_at: eb.fn.coalesce('read_at', eb.val(new Date())) }))
    .where('id', '=', message)
    .where('person_id', '=', person)
    .returning('link')
    .executeTakeFirst();
  return row?.link ?? null;
}

/** How what a person is told comes by e-mail, too, and where to. */
export const readMailRule = (db: Connection, person: string) =>
  db
    .selectFrom('person')
    .select(['mails as rule', 'email'])
    .where('id', '=', person)
    .executeTakeFirstOrThrow();

export const setMailRule = (db: Connection, person: string, mails: MailRule) =>
  db.updateTable('person').set({ mails }).where('id', '=', person).execute();
