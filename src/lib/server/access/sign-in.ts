import { randomBytes } from 'node:crypto';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import { hashOf } from './token-hash';
import { rangeOf } from './address';
import type { Limits } from './limits';
import { isPassword } from './password';
import type { Role } from './table';

export type SignInResult =
  { person: { id: string; school_id: number; role: Role } } | { sentence: string };

/** A browser that a person signed in with before carries this, so that others' guesses never lock it out. */
export const KNOWN_COOKIE = 'uncia-known';
export const KNOWN_FOR = 365 * 24 * 3600;

interface Try {
  name: string;
  password: string;
  /** Of the browser. */
  address: string;
  /** What the browser's `KNOWN_COOKIE` says. */
  known?: string;
}

/**
 * Checks a name and password. Wrong ones are counted by account, by address and by its range, for all processes together;
 * from a browser that its person used before, by that browser alone.
 */
export async function signIn(
  db: Database,
  limits: Limits,
  { name, password, address, known = '' }: Try,
): Promise<SignInResult> {
  const account = name.trim().toLowerCase();
  const person = await db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'password_hash'])
    .where('sign_in_name', '=', account)
    .where('disabled_at', 'is', null)
    .executeTakeFirst();
  const isKnown =
    person !== undefined &&
    known !== '' &&
    (await db
      .selectFrom('known_browser')
      .select('hash')
      .where('hash', '=', hashOf(known))
      .where('person_id', '=', person.id)
      .executeTakeFirst()) !== undefined;
  const counts: [Parameters<Limits['count']>[0], string][] = isKnown
    ? [['browser', hashOf(known)]]
    : [
        ['address', address],
        ['range', rangeOf(address)],
        ['account', hashOf(account)],
      ];
  try {
    // Counted before the password is compared, so that many tries at once do not pass together.
    for (const [kind, key] of counts) await limits.count(kind, key);
  } catch (thrown) {
    if (thrown instanceof Refusal) return { sentence: `Too many tries. ${thrown.message}` };
    throw thrown;
  }
  if (!(await isPassword(person?.password_hash, password)) || !person)
    return { sentence: 'This name and password do not belong together. Please try again.' };
  for (const [kind, key] of counts) await limits.forgive(kind, key);
  const { id, school_id, role } = person;
  return { person: { id, school_id, role } };
}

/** Remembers a browser that somebody has signed in with. @returns what its cookie is to say */
export async function rememberBrowser(
  db: Database,
  person: { id: string; school_id: number },
  known: string | undefined,
): Promise<string> {
  const token = known || randomBytes(24).toString('base64url');
  await db
    .insertInto('known_browser')
    .values({ hash: hashOf(token), person_id: person.id, school_id: person.school_id })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  return token;
}
