import { sql } from 'kysely';
import { sayTime } from '$core/calendar/say-time';
import type { HandOutWish } from '$core/handout/wish';
import { HOLDERS } from '../copy/holders';
import type { Using } from '../services';
import type { Tx } from '../db/transaction';
import type { PutJob } from '../jobs/jobs';

interface HandedOut {
  assignment: string;
  school: number;
  wish: HandOutWish;
  due: ReadonlyMap<string, number | null>;
  at: Date;
}

/** Puts down, as part of handing out or of a change, that students are to be told, and reminded before it is due. */
export async function putTidings(
  jobs: PutJob,
  tx: Tx,
  { assignment, school, wish, due, at }: HandedOut,
): Promise<void> {
  await jobs.put(tx, school, 'tell handed out', { assignment });
  if (wish.reminder === null) return;
  for (const [klass, time] of due) {
    const when = time === null ? 0 : time - wish.reminder * 60_000;
    if (when > at.getTime())
      await jobs.put(tx, school, 'remind', { assignment, class: klass }, new Date(when));
  }
}

interface Told {
  assignment: string;
  class: string;
  name: string;
  title: string;
  due: Date | null;
  handed_out_at: Date;
  time_zone: string;
}

/** The classes of an assignment whose students see it. */
async function classesOf(app: Using<'db'>, assignment: string): Promise<Told[]> {
  const { rows } = await sql<Told>`
    select task.id as assignment, class.id as class, class.name, task.title, handed.due_at as due, time_zone,
      handed.handed_out_at
    from assignment_class handed join assignment task on task.id = handed.assignment_id
    join class on class.id = handed.class_id join school on school.id = class.school_id
    where handed.assignment_id = ${assignment} and handed.withdrawn_at is null and class.opened_at is not null`.execute(
    app.db,
  );
  return rows;
}

/** Tells everybody who has a page of it there, in one statement; nobody twice of the same cause. */
const tellHolders = (
  app: Using<'db'>,
  { assignment, class: klass }: Told,
  message: { subject: string; text: string; cause: string; at?: Date },
  unfinished = false,
) =>
  sql`insert into message (school_id, person_id, at, subject, text, link, cause)
    select distinct on (holder.person) page.school_id, holder.person, ${message.at ?? new Date()}::timestamptz, ${message.subject}, ${message.text},
      '/work/' || page.id, ${message.cause}
    from page
    cross join lateral unnest(${HOLDERS}) as holder(person)
    where page.assignment_id = ${assignment} and page.class_id = ${klass} and page.kind = 'copy'
      and page.away_at is null and page.replaced_at is null
      and (not ${unfinished} or (page.delivery <> 'to read' and not exists (
        select from event where event.page_id = page.id and kind = 'handed in')
        and coalesce((select kind from allowance where allowance.assignment_id = page.assignment_id
          and allowance.person_id = page.student_id order by id desc limit 1), '') <> 'excused'))
    order by holder.person, page.made_at
    on conflict (person_id, cause) do nothing`.execute(app.db);

const dueWords = ({ due, time_zone }: Told) =>
  due === null ? 'It has no due time.' : `It is due ${sayTime(due.getTime(), time_zone)}.`;

/** The job: tells students of what they were handed out; and, where they know of it, of another due time. */
export async function tellHandedOut(app: Using<'db'>, assignment: string): Promise<void> {
  for (const told of await classesOf(app, assignment)) {
    const text = `In ${told.name}. ${dueWords(told)}`;
    const { numAffectedRows } = await tellHolders(app, told, {
      subject: `Handed out: ${told.title}`,
      text,
      cause: `handed out ${assignment}`,
      at: told.handed_out_at,
    });
    const { rows } = await sql<{ text: string }>`
      select distinct text from message where cause = ${`handed out ${assignment}`} and text <> ${text}
        and text like ${`In ${told.name}. %`}`.execute(app.db);
    if (rows.length > 0 && !numAffectedRows)
      await tellHolders(app, told, {
        subject: `Due at another time: ${told.title}`,
        text,
        cause: `due ${assignment} ${told.due?.getTime() ?? 'never'}`,
      });
  }
}

/** The job: reminds who has not handed in, if the time before it is due has come; a changed time counts. */
export async function remind(
  app: Using<'db'>,
  { assignment, class: klass }: { assignment: string; class: string },
  now: number,
): Promise<void> {
  const told = (await classesOf(app, assignment)).find((one) => one.class === klass);
  const { reminder } = await app.db
    .selectFrom('assignment')
    .select('reminder')
    .where('id', '=', assignment)
    .executeTakeFirstOrThrow();
  const due = told?.due?.getTime();
  if (!told || !due || reminder === null || now < due - reminder * 60_000 || now > due) return;
  await tellHolders(
    app,
    told,
    {
      subject: `Due soon: ${told.title}`,
      text: `In ${told.name}. ${dueWords(told)}`,
      cause: `due soon ${assignment} ${due}`,
    },
    true,
  );
}
