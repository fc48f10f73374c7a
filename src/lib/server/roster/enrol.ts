import type { ClassThing } from '../access/relation';
import { handInWhatIsDone } from '../copy/all-done';
import type { Tx } from '../db/transaction';

/** Says when somebody left a class; null: they are in it. Nothing waits for who is not. */
export async function setLeft(
  tx: Tx,
  klass: string,
  person: string,
  left: Date | null,
): Promise<void> {
  await tx
    .updateTable('enrolment')
    .set({ left_at: left })
    .where('class_id', '=', klass)
    .where('person_id', '=', person)
    .execute();
  if (left) await handInWhatIsDone(tx, { class: klass });
}

/** Puts somebody into a class. Who comes back finds their work: it never left. @returns when they had left, or null */
export async function enrol(
  tx: Tx,
  klass: Pick<ClassThing, 'id' | 'school_id'>,
  person: string,
  at: Date,
): Promise<Date | null> {
  const before = await tx
    .selectFrom('enrolment')
    .select('left_at')
    .where('class_id', '=', klass.id)
    .where('person_id', '=', person)
    .executeTakeFirst();
  if (before) {
    await setLeft(tx, klass.id, person, null);
    return before.left_at ?? at;
  }
  await tx
    .insertInto('enrolment')
    .values({ class_id: klass.id, school_id: klass.school_id, person_id: person, joined_at: at })
    .execute();
  return null;
}
