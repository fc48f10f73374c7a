import { sql } from 'kysely';
import { plainWord } from '$core/text/plain-word';
import type { Tx } from '../db/transaction';

/** A name to sign in by that nobody has yet: the one that is wished for, or "ada.fennick", "ada.fennick2". */
export async function freeSignInName(
  tx: Tx,
  { given, family, signIn = '' }: { given: string; family: string; signIn?: string },
): Promise<string> {
  const part = (text: string) => plainWord(text).replace(/[^a-z0-9]+/g, '');
  const wished = /^[a-z0-9][a-z0-9._@-]{0,99}$/.test(signIn) ? signIn : '';
  const base = wished || [part(given), part(family)].filter(Boolean).join('.') || 'somebody';
  // Sign-in names are those of the whole server; one at a time looks for the next that is free.
  await sql`select pg_advisory_xact_lock(hashtext('sign-in names'))`.execute(tx);
  const taken = await tx
    .selectFrom('person')
    .select('sign_in_name')
    .where('sign_in_name', 'like', `${base}%`)
    .execute();
  const names = new Set(taken.map(({ sign_in_name }) => sign_in_name));
  let name = base;
  for (let n = 2; names.has(name); n++) name = `${base}${n}`;
  return name;
}
