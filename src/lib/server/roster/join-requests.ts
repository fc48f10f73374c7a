import type { SignedIn } from '../access/session';
import type { ClassThing } from '../access/relation';
import type { Using } from '../services';
import { holdClasses } from '../class/hold-classes';
import { notify } from '../message/messages';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import { Refusal } from '../page/refusal';
import { enrol } from './enrol';

/** Asks somebody into a class whom its teacher does not teach yet. Asking again after a no asks anew. */
export async function askToJoin(
  tx: Tx,
  klass: ClassThing,
  person: string,
  by: SignedIn,
  at: Date,
): Promise<void> {
  const asked = { asked_by: by.id, asked_at: at, answered_at: null, accepted: null };
  await tx
    .insertInto('join_request')
    .values({ class_id: klass.id, school_id: klass.school_id, person_id: person, ...asked })
    .onConflict((conflict) => conflict.columns(['class_id', 'person_id']).doUpdateSet(asked))
    .execute();
  await notify(tx, {
    school: klass.school_id,
    people: [person],
    link: '/work',
    fact: {
      kind: 'asked to join',
      class: klass.name,
      by: by.called || `${by.given} ${by.family}`,
    },
    cause: `join ${klass.id} ${at.getTime()}`,
  });
}

/** Forgets a question that was not answered. */
export const stopAsking = (tx: Tx, klass: string, person: string) =>
  tx
    .deleteFrom('join_request')
    .where('class_id', '=', klass)
    .where('person_id', '=', person)
    .where('answered_at', 'is', null)
    .execute();

const open = (db: Database) =>
  db
    .selectFrom('join_request')
    .innerJoin('class', 'class.id', 'join_request.class_id')
    .innerJoin('person as by', 'by.id', 'join_request.asked_by')
    .innerJoin('person', 'person.id', 'join_request.person_id')
    .select([
      'join_request.class_id as class',
      'class.name as name',
      'person.id as person',
      'person.given',
      'person.family',
      'by.called',
      'by.given as byGiven',
      'by.family as byFamily',
      'asked_at',
    ])
    .where('answered_at', 'is', null)
    .orderBy('asked_at');

type Row = Awaited<ReturnType<ReturnType<typeof open>['execute']>>[number];
const asRequest = ({ called, byGiven, byFamily, asked_at, given, family, ...row }: Row) => ({
  ...row,
  student: `${given} ${family}`,
  by: called || `${byGiven} ${byFamily}`,
  asked: asked_at.getTime(),
});

/** The classes that somebody is asked into. */
export const readAsked = async (db: Database, person: string) =>
  (await open(db).where('join_request.person_id', '=', person).execute()).map(asRequest);

/** Everybody who is asked into some class of a school, for the office. */
export const readAskedInSchool = async (db: Database, school: number) =>
  (await open(db).where('join_request.school_id', '=', school).limit(500).execute()).map(asRequest);

/** Who is asked into a class. */
export const readAskedInto = async (db: Database, klass: string) =>
  (await open(db).where('join_request.class_id', '=', klass).execute()).map(asRequest);

/** A student answers for themselves, the office for anybody of the school. @throws Refusal when nothing is asked */
export async function answerRequest(
  app: Using<'db' | 'jobs' | 'news'>,
  by: SignedIn,
  asked: { class: string; person: string },
  accepted: boolean,
): Promise<void> {
  if (by.role !== 'office' && by.id !== asked.person)
    throw new Refusal(404, 'Nobody asks this of you.');
  const at = new Date();
  await inTransaction(app.db, async (tx) => {
    const row = await tx
      .updateTable('join_request')
      .set({ answered_at: at, accepted })
      .where('class_id', '=', asked.class)
      .where('person_id', '=', asked.person)
      .where('school_id', '=', by.school_id)
      .where('answered_at', 'is', null)
      .returning(['school_id', 'asked_by'])
      .executeTakeFirst();
    if (!row) throw new Refusal(404, 'This was answered already, or is not asked any more.');
    const name = await tx
      .selectFrom('person')
      .select(['given', 'family'])
      .where('id', '=', asked.person)
      .executeTakeFirstOrThrow();
    await notify(tx, {
      school: row.school_id,
      people: [row.asked_by],
      link: `/classes/${asked.class}/roster`,
      fact: { kind: 'join answered', name: `${name.given} ${name.family}`, accepted },
      cause: `joined ${asked.class} ${asked.person} ${at.getTime()}`,
    });
    if (!accepted) return;
    await holdClasses(tx, [asked.class]);
    await enrol(tx, { id: asked.class, school_id: row.school_id }, asked.person, at);
    await app.jobs.put(tx, row.school_id, 'receive', {
      class: asked.class,
      joined: [asked.person],
      moved: [asked.person],
    });
  });
  publishToClasses(app, [asked.class]);
}
