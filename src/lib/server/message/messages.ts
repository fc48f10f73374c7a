import type { MailRule } from '$core/calendar/mail-times';
import { MessageFact } from '$core/messages/message';
import { sayMessage } from '$core/messages/say-message';
import type { Connection } from '../page/page-store';

export interface Notice {
  school: number;
  people: readonly string[];
  fact: MessageFact;
  /** Where it leads, from the root of Uncia. */
  link: string;
  /** What it is about: nobody is notified of the same cause twice. */
  cause: string;
  at?: Date;
}

/** Puts messages into people's mailboxes, in one statement. */
export async function notify(db: Connection, ...notices: readonly Notice[]): Promise<void> {
  const rows = notices.flatMap(({ people, school, fact, ...message }) =>
    people.map((person_id) => ({
      ...message,
      fact: JSON.stringify(fact),
      school_id: school,
      person_id,
    })),
  );
  if (rows.length === 0) return;
  await db
    .insertInto('message')
    .values(rows)
    .onConflict((conflict) => conflict.columns(['person_id', 'cause']).doNothing())
    .execute();
}

/** A person's messages in words, newest first. */
export async function readMailbox(db: Connection, person: string) {
  const rows = await db
    .selectFrom('message')
    .innerJoin('school', 'school.id', 'message.school_id')
    .select(['message.id', 'at', 'fact', 'link', 'read_at', 'time_zone'])
    .where('person_id', '=', person)
    .orderBy('at', 'desc')
    .limit(500)
    .execute();
  return rows.map(({ id, at, fact, link, read_at, time_zone }) => ({
    id,
    at: at.getTime(),
    link,
    unread: read_at === null,
    ...sayMessage(MessageFact.parse(fact), time_zone),
  }));
}

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

/** Marks a person's own message as read. @returns where it leads; null when it is not theirs */
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

/** How a person's messages come by e-mail, too, and where to. */
export const readMailRule = (db: Connection, person: string) =>
  db
    .selectFrom('person')
    .select(['mails as rule', 'email'])
    .where('id', '=', person)
    .executeTakeFirstOrThrow();

export const setMailRule = (db: Connection, person: string, mails: MailRule) =>
  db.updateTable('person').set({ mails }).where('id', '=', person).execute();
