import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { randomBytes } from 'node:crypto';
import { passwordFault } from '$core/text/password-rule';
import { Refusal } from '../page/refusal';

/** OWASP Password Storage Cheat Sheet: Argon2id with 19 MiB, 2 iterations, 1 degree of parallelism. */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

const COMMON: ReadonlySet<string> = new Set(dictionary['passwords-common']);

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);

/** Compared when there is none to compare with, so that both cases take as long. */
let nobodysHash: Promise<string> | null = null;

/** Whether this is the password. Who has none yet cannot sign in, and waits as long as anybody to hear it. */
export async function isPassword(kept: string | undefined, password: string): Promise<boolean> {
  nobodysHash ??= hashPassword(randomBytes(16).toString('hex'));
  const right = await verify(kept || (await nobodysHash), password);
  return right && Boolean(kept);
}

/** @throws Refusal when the password is too short, or one that a guesser tries first */
export function checkPassword(
  password: string,
  of: { sign_in_name: string; given: string; family: string },
): void {
  const own = [of.sign_in_name, of.given + of.family, `${of.given} ${of.family}`];
  const fault = passwordFault(password, COMMON, own);
  if (fault) throw new Refusal(400, fault);
}
