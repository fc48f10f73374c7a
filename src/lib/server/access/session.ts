import { hash, verify } from '@node-rs/argon2';
import { createHash, randomBytes } from 'node:crypto';
import { sql } from 'kysely';
import type { Database } from '../db/connect';
import { together } from '../db/together';
import type { Role } from './table';

export interface SignedIn {
  id: string;
  school_id: number;
  role: Role;
  given: string;
  family: string;
  called: string;
}

export const SESSION_COOKIE = 'uncia';
const SESSION_DAYS = 14;

/** OWASP Password Storage Cheat Sheet: Argon2id with 19 MiB, 2 iterations, 1 degree of parallelism. */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);

const mark = (token: string) => createHash('sha256').update(token).digest('hex');

/** @returns the secret for the person's cookie; the database keeps only its hash */
export async function beginSession(
  db: Database,
  person: { id: string; school_id: number },
  now: number,
): Promise<{ token: string; expires: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(now + SESSION_DAYS * 86_400_000);
  await db
    .insertInto('session')
    .values({
      id: mark(token),
      school_id: person.school_id,
      person_id: person.id,
      expires_at: expires,
    })
    .execute();
  await db.deleteFrom('session').where('expires_at', '<', new Date(now)).execute();
  return { token, expires };
}

export const endSession = (db: Database, token: string) =>
  db.deleteFrom('session').where('id', '=', mark(token)).execute();

/** Finds who is signed in with a token at a time (epoch milliseconds). */
export const sessionReader = (db: Database) =>
  together(async (asked: readonly { token: string; now: number }[]) => {
    const ids = asked.map(({ token }) => mark(token));
    const rows = await db
      .selectFrom('session')
      .innerJoin('person', 'person.id', 'session.person_id')
      .select([
        'session.id as session',
        'session.expires_at',
        'person.id',
        'person.school_id',
        'person.role',
        'person.given',
        'person.family',
        'person.called',
      ])
      .where('session.id', '=', sql<string>`any(${ids}::text[])`)
      .execute();
    const found = new Map(rows.map((row) => [row.session, row]));
    return ids.map((id, index): SignedIn | null => {
      const row = found.get(id);
      if (!row || row.expires_at.getTime() <= (asked[index]?.now ?? 0)) return null;
      const { id: person, school_id, role, given, family, called } = row;
      return { id: person, school_id, role, given, family, called };
    });
  });

/** Free tries before one has to wait, and the longest wait, in milliseconds. */
const FREE_TRIES = 5;
const LONGEST_WAIT = 15 * 60_000;

const waitAfter = (failures: number) =>
  failures < FREE_TRIES ? 0 : Math.min(LONGEST_WAIT, 5000 * 2 ** (failures - FREE_TRIES));

export type SignInResult =
  { person: { id: string; school_id: number; role: Role } } | { sentence: string };

/** Compared when nobody has that name, so that both cases take as long. */
let nobodysHash: Promise<string> | null = null;

/**
 * Checks a name and password. Tries are counted by name and by address in the database, for all processes together.
 * @param address of the browser
 */
export async function signIn(
  db: Database,
  name: string,
  password: string,
  address: string,
  now: number,
): Promise<SignInResult> {
  const person = await db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'password_hash'])
    .where('sign_in_name', '=', name.trim().toLowerCase())
    .executeTakeFirst();
  const key = `${name.trim().toLowerCase()} ${address}`;
  // Counted before the password is compared, so that many tries at once do not pass together.
  const counted = await db
    .insertInto('sign_in_throttle')
    .values({ key, failures: 1, last_at: new Date(now) })
    .onConflict((conflict) =>
      conflict.column('key').doUpdateSet((eb) => ({
        failures: eb
          .case()
          .when('sign_in_throttle.last_at', '<', new Date(now - LONGEST_WAIT))
          .then(1)
          .else(eb('sign_in_throttle.failures', '+', 1))
          .end(),
      })),
    )
    .returning(['failures', 'last_at'])
    .executeTakeFirstOrThrow();
  const left = counted.last_at.getTime() + waitAfter(counted.failures - 1) - now;
  if (counted.failures > FREE_TRIES && left > 0) {
    const seconds = Math.ceil(left / 1000);
    const wait = seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`;
    await db
      .updateTable('sign_in_throttle')
      .set({ failures: counted.failures - 1 })
      .where('key', '=', key)
      .execute();
    return { sentence: `Too many tries with this name. Please try again in ${wait}.` };
  }
  nobodysHash ??= hashPassword(randomBytes(16).toString('hex'));
  // Who has no password yet cannot sign in, and waits as long as anybody to hear it.
  const right = await verify(person?.password_hash || (await nobodysHash), password);
  if (!person || !right) {
    await db
      .updateTable('sign_in_throttle')
      .set({ last_at: new Date(now) })
      .where('key', '=', key)
      .execute();
    return { sentence: 'This name and password do not belong together. Please try again.' };
  }
  await db.deleteFrom('sign_in_throttle').where('key', '=', key).execute();
  return { person };
}
