import { sql } from 'kysely';
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

/** Puts messages into people's mailboxes, in one statement. @returns how many: not those whose cause is known */
export async function notify(db: Connection, ...notices: readonly Notice[]): Promise<number> {
  const rows = notices.flatMap(({ people, school, fact, ...message }) =>
    people.map((person_id) => ({
      ...message,
      fact: JSON.stringify(fact),
      school_id: school,
      person_id,
    })),
  );
  if (rows.length === 0) return 0;
  const { numInsertedOrUpdatedRows: told = 0n } = await db
    .insertInto('message')
    .values(rows)
    .onConflict((conflict) => conflict.columns(['person_id', 'cause']).doNothing())
    .executeTakeFirstOrThrow();
  return Number(told);
}

/**
 * Puts one more of a kind that is gathered into people's mailboxes: whoever has not read the last one has one that counts
 * them all. Within a transaction.
 */
export async function notifyGathered(
  db: Connection,
  { people, fact, link, ...notice }: Notice & { fact: { count: number } },
): Promise<void> {
  // One after the other, in the same order for all: each counts what those before it told.
  await sql`select from person where id = any(${people}::uuid[]) order by id for no key update`.execute(
    db,
  );
  const { rows } = await sql<{ person_id: string }>`
    update message set at = now(), fact = jsonb_set(${JSON.stringify(fact)}::jsonb, '{count}',
      to_jsonb((fact ->> 'count')::int + ${fact.count}))
    where person_id = any(${people}::uuid[]) and link = ${link} and fact ->> 'kind' = ${fact.kind} and read_at is null
    returning person_id`.execute(db);
  const known = new Set(rows.map(({ person_id }) => person_id));
  await notify(db, { ...notice, fact, link, people: people.filter((id) => !known.has(id)) });
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
    .select(['mails as rule', 'email', 'hears_hand_ins as handIns'])
    .where('id', '=', person)
    .executeTakeFirstOrThrow();

export const setMailRule = (db: Connection, person: string, mails: MailRule) =>
  db.updateTable('person').set({ mails }).where('id', '=', person).execute();

/** Says whether one of the staff is told of work that is handed in. */
export const setHearsHandIns = (db: Connection, person: string, hears: boolean) =>
  db.updateTable('person').set({ hears_hand_ins: hears }).where('id', '=', person).execute();
