import type { Grant } from '../access/grant';
import { beginArchive, readNewestArchive } from '../archive/archives';
import { peopleOf } from '../class/open-class';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import type { PutJob } from '../jobs/jobs';
import { publishToClasses } from '../live/listeners';
import { notify } from '../message/messages';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/**
 * Locks every page of a class in the order of its id, as the log of steps does: whoever writes on one is done before, or
 * finds it sealed.
 */
async function seal(tx: Tx, klass: string, sealed: boolean): Promise<void> {
  await tx
    .selectFrom('page')
    .select('id')
    .where('class_id', '=', klass)
    .orderBy('id')
    .forUpdate()
    .execute();
  await tx.updateTable('page').set({ sealed }).where('class_id', '=', klass).execute();
}

const record = (
  tx: Tx,
  { thing, person }: Pick<Grant<'close the term'>, 'thing' | 'person'>,
  kind: 'archived' | 'opened again',
) =>
  tx
    .insertInto('class_event')
    .values({ school_id: thing.school_id, class_id: thing.id, person_id: person.id, kind })
    .execute();

/**
 * Archives a class: one transaction after which nobody changes anything in it. What is planned does not go out, and who
 * is asked to join is not asked any more; both stay as they are otherwise.
 * @param readUntil the last day on which its students read their own work: "2027-01-31"; null for not at all
 * @throws Refusal when it is archived
 */
export async function archiveClass(
  app: Using<'db' | 'news'> & { jobs: PutJob },
  grant: Grant<'close the term'>,
  readUntil: string | null,
): Promise<void> {
  const { thing: klass } = grant;
  const at = new Date();
  const people = await inTransaction(app.db, async (tx) => {
    // Hand-outs, buildings and enrolments in this class are done before, or wait.
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forUpdate().execute();
    const archived = await tx
      .updateTable('class')
      .set({ archived_at: at, read_until: readUntil, opens_at: null })
      .where('id', '=', klass.id)
      .where('archived_at', 'is', null)
      .returning(['name', 'opened_at'])
      .executeTakeFirst();
    if (!archived) throw new Refusal(409, 'This class is archived already.');
    await seal(tx, klass.id, true);
    await tx
      .updateTable('hand_out')
      .set({ goes_out_at: null })
      .where('class_id', '=', klass.id)
      .where('handed_out_at', 'is', null)
      .execute();
    await tx
      .deleteFrom('join_request')
      .where('class_id', '=', klass.id)
      .where('answered_at', 'is', null)
      .execute();
    await record(tx, grant, 'archived');
    await beginArchive(app.jobs, tx, {
      class: klass.id,
      student: null,
      school: klass.school_id,
      by: grant.person.id,
    });
    const all = await peopleOf(tx, klass.id);
    await notify(tx, {
      school: klass.school_id,
      people: all.filter((id) => id !== grant.person.id),
      cause: `class archived ${klass.id} ${at.getTime()}`,
      fact: {
        kind: 'class archived',
        class: archived.name,
        until: archived.opened_at === null ? null : readUntil,
      },
      link: '/',
    });
    return all;
  });
  publishToClasses(app, [klass.id]);
  app.news.endStreams({ people });
}

/** Opens an archived class again: everybody goes on where they were. @throws Refusal when it is not archived */
export async function openAgain(
  app: Using<'db' | 'news'>,
  grant: Grant<'keep the archive'>,
): Promise<void> {
  const { thing: klass } = grant;
  const people = await inTransaction(app.db, async (tx) => {
    const opened = await tx
      .updateTable('class')
      .set({ archived_at: null, read_until: null })
      .where('id', '=', klass.id)
      .where('archived_at', 'is not', null)
      .returning('id')
      .executeTakeFirst();
    if (!opened) throw new Refusal(409, 'This class is open again already.');
    await seal(tx, klass.id, false);
    await record(tx, grant, 'opened again');
    return peopleOf(tx, klass.id);
  });
  publishToClasses(app, [klass.id]);
  app.news.endStreams({ people });
}

/** Says until which day students read their own work; null: no longer. */
export async function setReadUntil(
  app: Using<'db' | 'news'>,
  { thing: klass }: Grant<'keep the archive'>,
  readUntil: string | null,
): Promise<void> {
  await app.db
    .updateTable('class')
    .set({ read_until: readUntil })
    .where('id', '=', klass.id)
    .where('archived_at', 'is not', null)
    .execute();
  publishToClasses(app, [klass.id]);
  app.news.endStreams({ people: await peopleOf(app.db, klass.id) });
}

/** An archived class as its staff see it: who closed it and when, and what it holds. */
export async function viewArchived(db: Database, grant: Grant<'see the class'>) {
  const { thing: klass } = grant;
  const row = await db
    .selectFrom('class')
    .select(['archived_at', 'read_until', 'opened_at'])
    .where('id', '=', klass.id)
    .executeTakeFirstOrThrow();
  const events = await db
    .selectFrom('class_event')
    .innerJoin('person', 'person.id', 'class_event.person_id')
    .select(['class_event.at', 'class_event.kind', 'given', 'family', 'called'])
    .where('class_id', '=', klass.id)
    .orderBy('class_event.id', 'desc')
    .execute();
  return {
    klass,
    archived: row.archived_at?.getTime() ?? null,
    readUntil: row.read_until,
    wasOpen: row.opened_at !== null,
    events: events.map(({ at, kind, given, family, called }) => ({
      at: at.getTime(),
      kind,
      by: called || `${given} ${family}`,
    })),
    archive: await readNewestArchive(db, klass.id, null),
    mayDownload: grant.may('download the archive'),
    mayKeep: grant.may('keep the archive'),
    mayCarryOver: grant.may('carry over from the class'),
    now: Date.now(),
  };
}
