import { z } from 'zod';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { Refusal } from '../page/refusal';
import type { Tx } from '../db/transaction';
import { changeRoster, rename, type Done } from './apply-roster';
import { setLeft } from './enrol';
import { readTrusted } from './trusted';

/** What a teacher says of one student of the class, without a file. */
export const OneStudent = z.discriminatedUnion('does', [
  z.object({ does: z.literal('leaves'), student: z.uuid('Nobody is named.') }),
  z.object({ does: z.literal('comes back'), student: z.uuid('Nobody is named.') }),
  z.object({
    does: z.literal('is corrected'),
    student: z.uuid('Nobody is named.'),
    given: z.string().trim().min(1, 'The given name is missing.').max(100),
    family: z.string().trim().min(1, 'The family name is missing.').max(100),
    email: z.union([z.literal(''), z.email('This is not an e-mail address.')]).default(''),
  }),
]);
type OneStudent = z.infer<typeof OneStudent>;

/**
 * One student leaves the class, comes back, or has another name. It is a change of the roster like any other, and undone
 * as one.
 * @throws Refusal when they never were in the class, or their name is not this teacher's to correct
 */
export const changeStudent = (
  app: Using<'db' | 'jobs' | 'news'>,
  grant: Grant<'manage the class'>,
  spec: OneStudent,
): Promise<number> =>
  changeRoster(app, grant, 'this view', (tx, at) => linesOf(tx, grant, spec, at));

async function linesOf(
  tx: Tx,
  { thing, person: by }: Grant<'manage the class'>,
  spec: OneStudent,
  at: Date,
): Promise<Done[]> {
  const student = await tx
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'email', 'left_at'])
    .where('class_id', '=', thing.id)
    .where('person.id', '=', spec.student)
    .executeTakeFirst();
  if (!student) throw new Refusal(404, 'This student was never in the class.');
  const { id: person, left_at } = student;
  const name = `${student.family}, ${student.given}`;
  switch (spec.does) {
    case 'leaves':
      if (left_at) return [];
      await setLeft(tx, thing.id, person, at);
      return [{ did: 'left', person, name }];
    case 'comes back':
      if (!left_at) return [];
      await setLeft(tx, thing.id, person, null);
      return [{ did: 'came back', person, name, left: left_at.toISOString() }];
    case 'is corrected': {
      const trusted = await readTrusted(tx, by.id, thing.id);
      if (!trusted.has(person))
        throw new Refusal(403, `Other teachers have ${name}, too: the office corrects the name.`);
      return [await rename(tx, person, spec)];
    }
  }
}
