import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Run } from './collecting-move';

/** @throws Refusal when somebody is no student of the class */
export async function refuseStrangers(tx: Tx, { thing }: Run, students: readonly string[]) {
  const wanted = [...new Set(students)];
  if (wanted.length === 0) return;
  const here = await tx
    .selectFrom('enrolment')
    .select('person_id')
    .where('class_id', '=', thing.class.id)
    .where('left_at', 'is', null)
    .where('person_id', 'in', wanted)
    .execute();
  if (here.length < wanted.length)
    throw new Refusal(422, 'Somebody of these is no student of this class.');
}
