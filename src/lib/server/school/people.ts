import { z } from 'zod';
import type { Entry } from '$core/roster/read-roster';
import { plainWord } from '$core/text/plain-word';
import type { Grant } from '../access/grant';
import { hashPassword } from '../access/password';
import { endSessions, type SignedIn } from '../access/session';
import type { Using } from '../services';
import { notify } from '../message/messages';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { newPassword } from './new-password';
import { freeSignInName } from './sign-in-name';

/** Everybody of a school, as the office sees them. */
export const readPeople = (db: Database, school: number) =>
  db
    .selectFrom('person')
    .select(['id', 'given', 'family', 'called', 'role', 'email', 'sign_in_name'])
    .select((eb) => [
      eb('password_hash', '=', '').as('waits'),
      eb('disabled_at', 'is not', null).as('disabled'),
    ])
    .where('school_id', '=', school)
    .where('name_only', '=', false)
    .orderBy('role', 'desc')
    .orderBy('family')
    .orderBy('given')
    .execute();

const name = (what: string) => z.string().trim().min(1, `${what} is missing.`).max(100);
export const NewPerson = z.object({
  given: name('The given name'),
  family: name('The family name'),
  /** How students address a teacher. */
  called: z.string().trim().max(100).default(''),
  email: z.union([z.literal(''), z.email('This is not an e-mail address.')]).default(''),
  role: z.enum(['teacher', 'office', 'student'], 'Choose what they are.'),
});
type NewPerson = z.infer<typeof NewPerson>;

export const ChangedPerson = NewPerson.omit({ role: true }).extend({ person: z.uuid() });

/** Another name or address for somebody of the school. @throws Refusal when there is no such person */
export async function changePerson(
  db: Database,
  { person: office }: Grant<'manage the school'>,
  { person: id, ...to }: z.infer<typeof ChangedPerson>,
): Promise<void> {
  const done = await db
    .updateTable('person')
    .set(to)
    .where('id', '=', id)
    .where('school_id', '=', office.school_id)
    .where('name_only', '=', false)
    .returning('id')
    .executeTakeFirst();
  if (!done) throw new Refusal(404, 'There is no such person in this school.');
}

async function insertPerson(tx: Tx, office: SignedIn, person: NewPerson): Promise<string> {
  const { id } = await tx
    .insertInto('person')
    .values({
      ...person,
      school_id: office.school_id,
      sign_in_name: await freeSignInName(tx, person),
      password_hash: '',
      made_by: office.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** An account for somebody new, who gets a first password next. @returns its id */
export const addPerson = (
  db: Database,
  { person: office }: Grant<'manage the school'>,
  person: NewPerson,
): Promise<string> => inTransaction(db, (tx) => insertPerson(tx, office, person));

/**
 * Accounts for the teachers of a list. Who is there already, by the office's number or by name, stays as they are.
 * @returns how many are new
 */
export async function addTeachers(
  db: Database,
  { person: office }: Grant<'manage the school'>,
  entries: readonly Entry[],
): Promise<number> {
  return inTransaction(db, async (tx) => {
    const { school_id } = office;
    const staff = await tx
      .selectFrom('person')
      .leftJoin('office_map', 'office_map.person_id', 'person.id')
      .select(['given', 'family', 'sourced_id'])
      .where('person.school_id', '=', school_id)
      .where('role', '=', 'teacher')
      .where('name_only', '=', false)
      .execute();
    const plain = (one: { given: string; family: string }) =>
      `${plainWord(one.family)}, ${plainWord(one.given)}`;
    const names = new Set(staff.map(plain));
    const numbers = new Set(staff.flatMap(({ sourced_id }) => sourced_id ?? []));
    let added = 0;
    for (const entry of entries) {
      if (names.has(plain(entry)) || (entry.officeId && numbers.has(entry.officeId))) continue;
      names.add(plain(entry));
      const { given, family, email, officeId } = entry;
      const id = await insertPerson(tx, office, {
        given,
        family,
        email,
        called: '',
        role: 'teacher',
      });
      if (officeId)
        await tx
          .insertInto('office_map')
          .values({ school_id, kind: 'person', sourced_id: officeId, person_id: id })
          .onConflict((conflict) => conflict.doNothing())
          .execute();
      added++;
    }
    return added;
  });
}

export interface GivenPassword {
  name: string;
  signInName: string;
  password: string;
}

/** New passwords for people of the office's school. */
export const givePasswords = (
  app: Using<'db' | 'news'>,
  { person }: Grant<'manage the school'>,
  people: readonly string[],
): Promise<GivenPassword[]> => setNewPasswords(app, person, people);

/**
 * Gives people of a school a new password, which is shown once and kept only as a hash. Who had one before is told who did
 * it, and their sessions end. For services that have seen to it that `by` may.
 */
export async function setNewPasswords(
  app: Using<'db' | 'news'>,
  by: SignedIn,
  people: readonly string[],
): Promise<GivenPassword[]> {
  const given: GivenPassword[] = [];
  for (const id of people) {
    const password = newPassword();
    // Hashed before anything is locked: it takes long.
    const password_hash = await hashPassword(password);
    const done = await inTransaction(app.db, async (tx) => {
      const was = await tx
        .selectFrom('person')
        .select(['given', 'family', 'sign_in_name', 'password_hash'])
        .where('id', '=', id)
        .where('school_id', '=', by.school_id)
        .where('disabled_at', 'is', null)
        .where('name_only', '=', false)
        .forUpdate()
        .executeTakeFirst();
      if (!was) return null;
      await tx.updateTable('person').set({ password_hash }).where('id', '=', id).execute();
      const ended = await endSessions(tx, id, { but: null });
      if (was.password_hash !== '')
        await notify(tx, {
          school: by.school_id,
          people: [id],
          link: '/account',
          fact: { kind: 'new password', by: by.called || `${by.given} ${by.family}` },
          cause: `password ${id} ${Date.now()}`,
        });
      return { was, ended };
    });
    if (!done) continue;
    app.news.endStreams({ sessions: done.ended });
    const { was } = done;
    given.push({ name: `${was.given} ${was.family}`, signInName: was.sign_in_name, password });
  }
  return given;
}

/** Lets nobody sign in to an account any more, or again. @throws Refusal when it is one's own */
export async function setDisabled(
  app: Using<'db' | 'news'>,
  { person: office }: Grant<'manage the school'>,
  person: string,
  disabled: boolean,
): Promise<void> {
  if (person === office.id) throw new Refusal(409, 'This is your own account. Ask a colleague.');
  const ended = await inTransaction(app.db, (tx) =>
    setShutOut(tx, office.school_id, person, disabled),
  );
  app.news.endStreams({ sessions: ended });
}

/** Ends an account's sessions and lets nobody sign in to it any more, or lets them again. @returns the sessions that ended */
export async function setShutOut(
  tx: Tx,
  school: number,
  person: string,
  out: boolean,
): Promise<string[]> {
  const row = await tx
    .updateTable('person')
    .set({ disabled_at: out ? new Date() : null })
    .where('id', '=', person)
    .where('name_only', '=', false)
    .where('school_id', '=', school)
    .returning('id')
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'There is nobody of that name in this school any more.');
  return out ? endSessions(tx, person, { but: null }) : [];
}
