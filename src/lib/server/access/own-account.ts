import { randomBytes } from 'node:crypto';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { hashOf } from './token-hash';
import { checkPassword, hashPassword, isPassword } from './password';
import { endSessions, type SignedIn } from './session';

const readAccount = (app: Using<'db'>, id: string) =>
  app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'given', 'family', 'sign_in_name', 'password_hash', 'email'])
    .where('id', '=', id)
    .where('disabled_at', 'is', null)
    .executeTakeFirst();

async function setPassword(
  app: Using<'db' | 'news'>,
  person: string,
  password: string,
  but: string | null,
) {
  const password_hash = await hashPassword(password);
  const ended = await inTransaction(app.db, async (tx) => {
    await tx.updateTable('person').set({ password_hash }).where('id', '=', person).execute();
    return endSessions(tx, person, { but });
  });
  app.news.endStreams({ sessions: ended });
}

/** Changes one's own password; all other sessions end. @throws Refusal when the old one is wrong, or the new one too weak */
export async function changePassword(
  app: Using<'db' | 'limits' | 'news'>,
  person: SignedIn,
  session: string,
  { old, password }: { old: string; password: string },
): Promise<void> {
  await app.limits.count('browser', session);
  const account = await readAccount(app, person.id);
  if (!account || !(await isPassword(account.password_hash, old)))
    throw new Refusal(403, 'This is not your password of today.');
  checkPassword(password, account);
  await setPassword(app, person.id, password, session);
  await app.limits.forgive('browser', session);
}

/** A link to a new password is good for an hour, in milliseconds. */
const LINK_LASTS = 3_600_000;

/** Sends a link to a new password, if there is such an account and it has an address. Says nothing of either. */
export async function sendPasswordLink(
  app: Using<'db' | 'limits' | 'mailer' | 'settings'>,
  signInName: string,
): Promise<void> {
  const name = signInName.trim().toLowerCase();
  await app.limits.count('letter', hashOf(name));
  const row = await app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'email', 'given'])
    .where('sign_in_name', '=', name)
    .where('email', '<>', '')
    .where('disabled_at', 'is', null)
    .executeTakeFirst();
  if (!row) return;
  const token = randomBytes(24).toString('base64url');
  await app.db
    .insertInto('password_link')
    .values({ hash: hashOf(token), person_id: row.id, school_id: row.school_id })
    .execute();
  await app.mailer.sendNow({
    to: row.email,
    subject: 'A new password for Uncia',
    text: `Hello ${row.given},\n\nwith this link you choose a new password, once and within an hour:\n${app.settings.ORIGIN}/password/${token}\n\nIf you did not ask for it, there is nothing you need to do.`,
  });
}

const readLink = (app: Using<'db'>, token: string) =>
  app.db
    .selectFrom('password_link')
    .select(['person_id'])
    .where('hash', '=', hashOf(token))
    .where('used_at', 'is', null)
    .where('made_at', '>', new Date(Date.now() - LINK_LASTS))
    .executeTakeFirst();

export const isPasswordLink = async (app: Using<'db'>, token: string): Promise<boolean> =>
  (await readLink(app, token)) !== undefined;

/** Sets a password by a link, which is used up. @returns whose it was @throws Refusal */
export async function usePasswordLink(
  app: Using<'db' | 'news'>,
  token: string,
  password: string,
): Promise<{ id: string; school_id: number }> {
  const gone = () =>
    new Refusal(
      410,
      'This link was used already, or is older than an hour. Please ask for another.',
    );
  const link = await readLink(app, token);
  const account = link && (await readAccount(app, link.person_id));
  if (!account) throw gone();
  checkPassword(password, account);
  const used = await app.db
    .updateTable('password_link')
    .set({ used_at: new Date() })
    .where('hash', '=', hashOf(token))
    .where('used_at', 'is', null)
    .returning('hash')
    .executeTakeFirst();
  if (!used) throw gone();
  await setPassword(app, account.id, password, null);
  return { id: account.id, school_id: account.school_id };
}
