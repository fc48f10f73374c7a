import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { putReminder } from './notify-students';

export interface AllowanceSpec {
  student: string;
  kind: 'extension' | 'excused' | 'as for all';
  due: Date | null;
  note: string;
  at: Date;
}

/** Gives one student more time, or excuses them; `as for all` takes it back. Every allowance stays in the record. */
export async function allow(
  app: Using<'db' | 'jobs' | 'news'>,
  { thing, person }: Grant<'run the assignment'>,
  spec: AllowanceSpec,
): Promise<void> {
  const { kind, due } = spec;
  if (kind === 'extension' && !due) throw new Refusal(400, 'Say until when.');
  const row = await app.db
    .selectFrom('enrolment')
    .select('school_id')
    .where('class_id', '=', thing.class.id)
    .where('person_id', '=', spec.student)
    .where('left_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'This student is not in the class.');
  await inTransaction(app.db, async (tx) => {
    await tx
      .insertInto('allowance')
      .values({
        school_id: row.school_id,
        assignment_id: thing.id,
        person_id: spec.student,
        kind,
        due_at: kind === 'extension' ? due : null,
        note: spec.note,
        made_by: person.id,
        at: spec.at,
      })
      .execute();
    const { reminder } = await tx
      .selectFrom('assignment')
      .select('reminder')
      .where('id', '=', thing.id)
      .executeTakeFirstOrThrow();
    const of = { assignment: thing.id, class: thing.class.id, school: row.school_id };
    await app.jobs.put(tx, row.school_id, 'notify handed out', { assignment: thing.id });
    if (kind === 'extension')
      await putReminder(app.jobs, tx, {
        ...of,
        due: due?.getTime() ?? null,
        reminder,
        at: spec.at,
      });
  });
  publishToClasses(app, [thing.class.id]);
}

/** What stands for each student of an assignment who was allowed something. */
export async function readAllowances(db: Connection, assignment: string) {
  const rows = await db
    .selectFrom('allowance')
    .distinctOn('person_id')
    .select(['person_id', 'kind', 'due_at', 'note'])
    .where('assignment_id', '=', assignment)
    .orderBy('person_id')
    .orderBy('id', 'desc')
    .execute();
  return rows
    .filter(({ kind }) => kind !== 'as for all')
    .map(({ person_id, kind, due_at, note }) => ({
      student: person_id,
      kind,
      note,
      due: due_at?.getTime() ?? null,
    }));
}
