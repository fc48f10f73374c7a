import { sql } from 'kysely';
import { z } from 'zod';
import { dayOf } from '$core/calendar/local-time';
import type { CopyRow } from '$core/copy/copy-row';
import { canBeReminded, factsFor, flagsOf } from '$core/copy/state';
import { inCupboard } from '../access/class-state';
import type { Grant } from '../access/grant';
import type { ClassThing } from '../access/relation';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';
import { publishToClasses } from '../live/listeners';
import { notify } from '../message/messages';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/** Who is to be reminded of which copy, and what is said with it. */
export const NewReminder = z.strictObject({
  cells: z
    .array(z.strictObject({ copy: z.uuid(), student: z.uuid() }))
    .min(1, 'Please choose whom to remind.')
    .max(10_000),
  words: z.string().trim().max(500, 'Please say it in at most 500 characters.').default(''),
});
type NewReminder = z.infer<typeof NewReminder>;

/** Nobody is reminded twice of the same assignment on one day of the school's clock: that is the message's cause. */
const causeOf = (assignment: string, { time_zone }: ClassThing, now: number) =>
  `reminder ${assignment} ${dayOf(now, time_zone)}`;

/** What students of a class see of its assignments: their titles. What lies in the cupboard is not among them. */
async function readTitles(db: Database, klass: string): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'title'])
    .where('class_id', '=', klass)
    .where((eb) => eb.not(inCupboard('assignment_class.unit_id')))
    .execute();
  return new Map(rows.map(({ id, title }) => [id, title]));
}

/** Who was reminded today, by whomever: pairs of an assignment and a student of the class. */
export async function readReminded(
  db: Database,
  { thing: klass }: Grant<'manage the class'>,
  now: number,
): Promise<{ assignment: string; student: string }[]> {
  const assignments = [...(await readTitles(db, klass.id)).keys()];
  const { rows } = await sql<{ assignment: string; student: string }>`
    select known.assignment, here.person_id as student
    from unnest(${assignments}::uuid[], ${assignments.map((id) => causeOf(id, klass, now))}::text[])
      as known(assignment, cause)
    join enrolment here on here.class_id = ${klass.id} and here.left_at is null
    join message on message.person_id = here.person_id and message.cause = known.cause`.execute(db);
  return rows;
}

/**
 * Reminds students of what they still have to hand in.
 * @returns how many were; those who were reminded before today, or have nothing more to do there, are not
 * @throws {Refusal} when its students do not see the class yet
 */
export async function remindByHand(
  app: Using<'db' | 'news'>,
  { thing: klass, person }: Grant<'manage the class'>,
  { cells, words }: NewReminder,
  now: number,
): Promise<number> {
  const { opened_at, name } = await app.db
    .selectFrom('class')
    .select(['opened_at', 'name'])
    .where('id', '=', klass.id)
    .executeTakeFirstOrThrow();
  if (opened_at === null)
    throw new Refusal(409, `${name} is closed: its students see nothing of it yet.`);
  const copies = new Map(
    (await readCopies(app.db, { class: klass.id }, person.id)).map((copy) => [copy.id, copy]),
  );
  const titles = await readTitles(app.db, klass.id);
  const noticeTo = (copy: CopyRow, student: string) => {
    const own = factsFor(copy, student);
    const { assignment } = copy;
    const title = titles.get(assignment);
    if (title === undefined || !canBeReminded(copy, own)) return [];
    return {
      school: klass.school_id,
      people: [student],
      link: `/work/${copy.id}`,
      fact: {
        kind: 'reminder' as const,
        assignment,
        class: name,
        title,
        due: own.due,
        overdue: flagsOf(own, now).overdue,
        by: person.called || `${person.given} ${person.family}`,
        words,
      },
      cause: causeOf(assignment, klass, now),
    };
  };
  const told = await notify(
    app.db,
    ...cells.flatMap(({ copy: id, student }) => {
      const copy = copies.get(id);
      return copy?.members.includes(student) ? noticeTo(copy, student) : [];
    }),
  );
  if (told > 0) publishToClasses(app, [klass.id]);
  return told;
}
