import { hashOf } from '../access/token-hash';
import { randomBytes } from 'node:crypto';
import { hashPassword } from '../access/password';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import { inTransaction } from '../db/transaction';

/** A link is good for a week, in milliseconds. */
const LINK_LASTS = 7 * 24 * 3_600_000;

export async function hasPeople(db: Database): Promise<boolean> {
  const anybody = await db.selectFrom('person').select('id').limit(1).executeTakeFirst();
  return anybody !== undefined;
}

/** A one-time secret for the first administrator of a school without people; earlier ones stop working. */
export async function makeSetUpLink(db: Database, timeZone: string): Promise<string> {
  const school =
    (await db.selectFrom('school').select('id').executeTakeFirst()) ??
    (await db
      .insertInto('school')
      .values({ name: 'My school', time_zone: timeZone })
      .returning('id')
      .executeTakeFirstOrThrow());
  const token = randomBytes(24).toString('base64url');
  await db.deleteFrom('set_up_link').where('used_at', 'is', null).execute();
  await db
    .insertInto('set_up_link')
    .values({ hash: hashOf(token), school_id: school.id })
    .execute();
  return token;
}

export async function isSetUpLink(db: Database, token: string): Promise<boolean> {
  const link = await db
    .selectFrom('set_up_link')
    .select('hash')
    .where('hash', '=', hashOf(token))
    .where('used_at', 'is', null)
    .where('made_at', '>', new Date(Date.now() - LINK_LASTS))
    .executeTakeFirst();
  return link !== undefined;
}

export interface FirstAdministrator {
  school: string;
  given: string;
  family: string;
  signInName: string;
  password: string;
}

/** Uses the link up and makes its person. @throws Refusal when it was used */
export async function useSetUpLink(db: Database, token: string, first: FirstAdministrator) {
  const password_hash = await hashPassword(first.password);
  return inTransaction(db, async (tx) => {
    const link = await tx
      .updateTable('set_up_link')
      .set({ used_at: new Date() })
      .where('hash', '=', hashOf(token))
      .where('used_at', 'is', null)
      .returning('school_id')
      .executeTakeFirst();
    if (!link) throw new Refusal(410, 'This link was used already. Please sign in.');
    await tx
      .updateTable('school')
      .set({ name: first.school })
      .where('id', '=', link.school_id)
      .execute();
    return tx
      .insertInto('person')
      .values({
        school_id: link.school_id,
        role: 'office',
        given: first.given,
        family: first.family,
        called: '',
        sign_in_name: first.signInName,
        password_hash,
      })
      .returning(['id', 'school_id'])
      .executeTakeFirstOrThrow();
  });
}
