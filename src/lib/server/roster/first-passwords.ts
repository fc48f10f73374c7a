import { hashPassword } from '../access/password';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { newPassword } from '../school/new-password';
import { setNewPasswords, type GivenPassword } from '../school/people';

/**
 * Gives a first password to each student of a class who has none yet and whose account this teacher made; they are told
 * once and kept only as hashes.
 */
export async function giveFirstPasswords(
  db: Database,
  { thing, person }: Grant<'manage the class'>,
) {
  const students = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'sign_in_name'])
    .where('class_id', '=', thing.id)
    .where('made_by', '=', person.id)
    .where('left_at', 'is', null)
    .where('password_hash', '=', '')
    .orderBy('family')
    .execute();
  const given: { name: string; signInName: string; password: string }[] = [];
  for (const student of students) {
    const password = newPassword();
    const set = await db
      .updateTable('person')
      .set({ password_hash: await hashPassword(password) })
      .where('id', '=', student.id)
      .where('password_hash', '=', '')
      .executeTakeFirst();
    if (set.numUpdatedRows > 0n)
      given.push({
        name: `${student.given} ${student.family}`,
        signInName: student.sign_in_name,
        password,
      });
  }
  return given;
}

/** A new password for a student whom the teacher has now. @throws Refusal when they are not in the class, or have none yet */
export async function resetPassword(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'manage the class'>,
  student: string,
): Promise<GivenPassword[]> {
  const row = await app.db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select('password_hash')
    .where('class_id', '=', thing.id)
    .where('person_id', '=', student)
    .where('left_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'This student is not in the class.');
  if (row.password_hash === '')
    throw new Refusal(409, 'There is no password yet. Who made the account gives the first one.');
  return setNewPasswords(app, person, [student]);
}
