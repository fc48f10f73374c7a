import { slotFault } from '$core/calendar/calendar-faults';
import type { LessonSlot } from '$core/calendar/lessons';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import { notify } from '../message/messages';
import { inTransaction } from '../db/transaction';

export type StaffKind = 'lead' | 'co-teacher' | 'marker';

/**
 * Makes a teacher one of the class's staff, or, with null, no longer; they are told. Only a lead makes leads, or takes that back.
 * @throws Refusal when nobody would lead it
 */
export async function setStaff(
  db: Database,
  { thing: klass, person: by, relation }: Grant<'manage the class'>,
  person: string,
  kind: StaffKind | null,
): Promise<void> {
  await inTransaction(db, async (tx) => {
    const teacher = await tx
      .selectFrom('person')
      .select('id')
      .where('id', '=', person)
      .where('school_id', '=', klass.school_id)
      .where('role', '=', 'teacher')
      .where('name_only', '=', false)
      .executeTakeFirst();
    if (!teacher) throw new Refusal(404, 'There is no such teacher in this school.');
    const staff = await tx
      .selectFrom('class_staff')
      .select(['person_id', 'kind'])
      .where('class_id', '=', klass.id)
      .forUpdate()
      .execute();
    const was = staff.find((one) => one.person_id === person)?.kind ?? null;
    if (was === kind) return;
    if (relation !== 'lead' && (kind === 'lead' || was === 'lead'))
      throw new Refusal(
        403,
        'Only a lead of the class makes somebody its lead, or takes that back.',
      );
    const leads = staff.some((one) => one.kind === 'lead' && one.person_id !== person);
    if (kind !== 'lead' && !leads)
      throw new Refusal(409, 'A class needs a lead. Make somebody else its lead first.');
    if (kind)
      await tx
        .insertInto('class_staff')
        .values({ class_id: klass.id, school_id: klass.school_id, person_id: person, kind })
        .onConflict((conflict) => conflict.columns(['class_id', 'person_id']).doUpdateSet({ kind }))
        .execute();
    else
      await tx
        .deleteFrom('class_staff')
        .where('class_id', '=', klass.id)
        .where('person_id', '=', person)
        .execute();
    if (person !== by.id)
      await notify(tx, {
        school: klass.school_id,
        people: [person],
        link: kind ? `/classes/${klass.id}` : '/desk',
        fact: {
          kind: 'class staff',
          class: klass.name,
          becomes: kind,
          by: by.called || by.given,
        },
        cause: `staff ${klass.id} ${Date.now()}`,
      });
  });
}

export const readSlots = (db: Database, klass: string) =>
  db
    .selectFrom('lesson_slot')
    .select(['id', 'weekday', 'starts', 'ends'])
    .where('class_id', '=', klass)
    .orderBy('weekday')
    .orderBy('starts')
    .execute();

/** Adds a weekly lesson. @throws Refusal when it ends before it begins, or meets another of the class */
export async function addSlot(
  db: Database,
  { thing: klass }: Grant<'manage the class'>,
  slot: LessonSlot,
): Promise<void> {
  const fault = slotFault(slot, await readSlots(db, klass.id));
  if (fault) throw new Refusal(409, fault);
  await db
    .insertInto('lesson_slot')
    .values({ ...slot, class_id: klass.id, school_id: klass.school_id })
    .execute();
}

export const dropSlot = (db: Database, { thing }: Grant<'manage the class'>, slot: string) =>
  db.deleteFrom('lesson_slot').where('id', '=', slot).where('class_id', '=', thing.id).execute();

/** What a class is called, what is said about it, what those get who join late. */
export const describeClass = (
  db: Database,
  { thing }: Grant<'manage the class'>,
  spec: { name: string; about: string } | { join_rule: 'open' | 'coming' | 'ask' },
): Promise<unknown> => db.updateTable('class').set(spec).where('id', '=', thing.id).execute();
