import type { Grant } from '../access/grant';
import type { Using } from '../services';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { publishToClasses } from '../live/listeners';
import { notify } from '../message/messages';
import { inTransaction } from '../db/transaction';

/** Whether a class is open, or when it opens by itself; instants in epoch milliseconds. */
export async function readOpening(db: Connection, klass: string) {
  const row = await db
    .selectFrom('class')
    .select(['opened_at', 'opens_at', 'about'])
    .where('id', '=', klass)
    .executeTakeFirstOrThrow();
  return {
    about: row.about,
    opened: row.opened_at?.getTime() ?? null,
    opens: row.opens_at?.getTime() ?? null,
  };
}

/** Opens a class for its students, now, and tells everyone in it. Opening twice is opening once. */
export const openClass = (
  app: Using<'db' | 'jobs' | 'news'>,
  { thing }: Grant<'manage the class'>,
  at: Date,
): Promise<void> => open(app, thing.id, at);

async function open(app: Using<'db' | 'jobs' | 'news'>, klass: string, at: Date): Promise<void> {
  const opened = await inTransaction(app.db, async (tx) => {
    const row = await tx
      .updateTable('class')
      .set({ opened_at: at, opens_at: null })
      .where('id', '=', klass)
      .where('opened_at', 'is', null)
      .where('archived_at', 'is', null)
      .returning(['name', 'school_id'])
      .executeTakeFirst();
    if (!row) return null;
    const people = await peopleOf(tx, klass);
    await notify(tx, {
      school: row.school_id,
      people,
      cause: `class opened ${klass}`,
      fact: { kind: 'class opened', class: row.name },
      link: `/classes/${klass}/plan`,
    });
    // What was handed out while it was closed comes to its students now.
    const handedOut = await tx
      .selectFrom('assignment_class')
      .select('assignment_id')
      .where('class_id', '=', klass)
      .execute();
    for (const { assignment_id: assignment } of handedOut)
      await app.jobs.put(tx, row.school_id, 'notify handed out', { assignment });
    return people;
  });
  if (!opened) return;
  publishToClasses(app, [klass]);
  // Who may hear what is looked at anew when they come again.
  app.news.endStreams({ people: opened });
}

/** Students and staff of a class. */
export async function peopleOf(db: Connection, klass: string): Promise<string[]> {
  const rows = await db
    .selectFrom('enrolment')
    .select('person_id')
    .where('class_id', '=', klass)
    .where('left_at', 'is', null)
    .union(db.selectFrom('class_staff').select('person_id').where('class_id', '=', klass))
    .execute();
  return rows.map(({ person_id }) => person_id);
}

/** Sets when a class opens by itself; null for not by itself. @throws Refusal when it is open, or the time has passed */
export async function setOpening(
  app: Using<'db' | 'jobs'>,
  { thing: klass }: Grant<'manage the class'>,
  opens: Date | null,
  now: Date,
): Promise<void> {
  if (opens && opens <= now)
    throw new Refusal(400, 'This time has passed. Choose a later one, or open the class now.');
  await inTransaction(app.db, async (tx) => {
    const row = await tx
      .updateTable('class')
      .set({ opens_at: opens })
      .where('id', '=', klass.id)
      .where('opened_at', 'is', null)
      .returning('id')
      .executeTakeFirst();
    if (!row) throw new Refusal(409, 'The class is open already.');
    if (opens) await app.jobs.put(tx, klass.school_id, 'open class', { class: klass.id }, opens);
  });
}

/** The job: opens the class if its time has come; a time that was changed or taken back meanwhile counts. */
export async function openWhenDue(
  app: Using<'db' | 'jobs' | 'news'>,
  klass: string,
  now: Date,
): Promise<void> {
  const due = await app.db
    .selectFrom('class')
    .select('id')
    .where('id', '=', klass)
    .where('opens_at', '<=', now)
    .executeTakeFirst();
  if (due) await open(app, klass, now);
}

/** Closes a class again: its students see nothing of it, and nothing of theirs is lost. */
export async function closeClass(
  app: Using<'db' | 'news'>,
  { thing: { id: klass } }: Grant<'manage the class'>,
): Promise<void> {
  await app.db
    .updateTable('class')
    .set({ opened_at: null, opens_at: null })
    .where('id', '=', klass)
    .execute();
  publishToClasses(app, [klass]);
  app.news.endStreams({ people: await peopleOf(app.db, klass) });
}
