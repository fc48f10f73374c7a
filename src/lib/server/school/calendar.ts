import { sql } from 'kysely';
import { holidayFault, termFault, type Stretch } from '$core/calendar/calendar-faults';
import type { Grant } from '../access/grant';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';

const read = (db: Connection, table: 'term' | 'holiday', school: number) =>
  db
    .selectFrom(table)
    .select(['id', 'name', 'starts', 'ends'])
    .where('school_id', '=', school)
    .orderBy('starts')
    .execute();

export const readTerms = (db: Connection, school: number) => read(db, 'term', school);
export const readHolidays = (db: Connection, school: number) => read(db, 'holiday', school);

/** Enters a term or holiday, or changes it. @throws Refusal when it cannot be */
export async function writeStretch(
  db: Connection,
  { person: { school_id: school } }: Grant<'manage the school'>,
  kind: 'term' | 'holiday',
  stretch: Stretch,
): Promise<{ dueAfter: number }> {
  const fault =
    kind === 'term' ? termFault(stretch, await readTerms(db, school)) : holidayFault(stretch);
  if (fault) throw new Refusal(400, fault);
  const { id, ...values } = stretch;
  if (!id)
    await db
      .insertInto(kind)
      .values({ ...values, school_id: school })
      .execute();
  else
    await db
      .updateTable(kind)
      .set(values)
      .where('id', '=', id)
      .where('school_id', '=', school)
      .execute();
  return { dueAfter: kind === 'term' && id ? await countDueAfter(db, id) : 0 };
}

/** How many assignments of a term's classes are due after it has ended. */
async function countDueAfter(db: Connection, term: string): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    select count(*)::int as n from assignment_class handed join class on class.id = handed.class_id
    join term on term.id = class.term_id join school on school.id = class.school_id
    where term.id = ${term} and handed.withdrawn_at is null
      and handed.due_at >= (term.ends + 1)::timestamp at time zone school.time_zone`.execute(db);
  return rows[0]?.n ?? 0;
}

/** Strikes a term or holiday out. @throws Refusal when classes run in the term */
export async function dropStretch(
  db: Connection,
  { person: { school_id: school } }: Grant<'manage the school'>,
  kind: 'term' | 'holiday',
  id: string,
): Promise<void> {
  const used =
    kind === 'term' &&
    (await db.selectFrom('class').select('name').where('term_id', '=', id).executeTakeFirst());
  if (used) throw new Refusal(409, `${used.name} runs in this term, so it stays.`);
  await db.deleteFrom(kind).where('id', '=', id).where('school_id', '=', school).execute();
}
