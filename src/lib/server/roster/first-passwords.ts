import { randomInt } from 'node:crypto';
import { hashPassword } from '../access/session';
import type { Database } from '../db/connect';

/** Short words that are easy to read out and to type. */
const WORDS = [
  ...['anchor', 'basin', 'beacon', 'boat', 'bridge', 'cable', 'canvas', 'chart', 'cliff', 'cloud'],
  ...[
    'coral',
    'crane',
    'delta',
    'drift',
    'dune',
    'ember',
    'ferry',
    'fjord',
    'foam',
    'gale',
    'gull',
  ],
  ...['harbour', 'heron', 'island', 'kelp', 'lagoon', 'lamp', 'lantern', 'light', 'marsh', 'mast'],
  ...[
    'meadow',
    'mist',
    'otter',
    'paddle',
    'pebble',
    'pilot',
    'plank',
    'quay',
    'rain',
    'reef',
    'river',
  ],
  ...['rope', 'sail', 'sand', 'seal', 'shell', 'shore', 'slate', 'spray', 'stone', 'storm', 'tern'],
  ...['tide', 'timber', 'wave', 'whale', 'willow', 'wind'],
] as const;

const pick = () => WORDS[randomInt(WORDS.length)];
const newPassword = () => `${pick()}-${pick()}-${pick()}-${randomInt(100, 1000)}`;

/** Gives a first password to each student of a class who has none yet; they are told once and kept only as hashes. */
export async function giveFirstPasswords(db: Database, klass: string) {
  const students = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'sign_in_name'])
    .where('class_id', '=', klass)
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
        ...{ signInName: student.sign_in_name, password },
      });
  }
  return given;
}
