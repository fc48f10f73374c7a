import type { CopyRow } from '$core/copy/copy-row';
import type { Grant } from '../access/grant';
import type { Tx } from '../db/transaction';
import { notify, notifyGathered } from '../message/messages';

/** Tells those who share a page who handed it in for them. */
export async function tellOthers(
  tx: Tx,
  school: number,
  { thing, person }: Grant<'do own work'>,
  { members }: CopyRow,
) {
  await notify(tx, {
    school,
    people: members.filter((id) => id !== person.id),
    link: `/work/${thing.id}`,
    cause: `handed in for all ${thing.id} ${crypto.randomUUID()}`,
    fact: {
      kind: 'handed in for you',
      title: thing.title,
      by: `${person.given} ${person.family}`,
    },
  });
}

/** Tells the staff of a class, those who want to hear of it, that something is handed in. */
export async function tellStaff(tx: Tx, school: number, copy: CopyRow) {
  const about = await tx
    .selectFrom('assignment')
    .innerJoin('assignment_class', 'assignment_id', 'assignment.id')
    .innerJoin('class', 'class.id', 'class_id')
    .select(['assignment.title', 'class.name'])
    .where('assignment.id', '=', copy.assignment)
    .where('class.id', '=', copy.class)
    .executeTakeFirstOrThrow();
  const staff = await tx
    .selectFrom('class_staff')
    .innerJoin('person', 'person.id', 'person_id')
    .select('person.id')
    .where('class_id', '=', copy.class)
    .where('hears_hand_ins', '=', true)
    .execute();
  await notifyGathered(tx, {
    school,
    people: staff.map(({ id }) => id),
    link: `/classes/${copy.class}/assignments/${copy.assignment}`,
    cause: `handed in ${crypto.randomUUID()}`,
    fact: {
      kind: 'handed in',
      assignment: copy.assignment,
      class: about.name,
      title: about.title,
      count: 1,
    },
  });
}
