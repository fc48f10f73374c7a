import { sql } from 'kysely';
import { asksForWork, factsFor, wantsReminder } from '$core/copy/state';
import type { HandOutSpec } from '$core/handout/spec';
import { MessageFact } from '$core/messages/message';
import type { CopyRow } from '$core/copy/copy-row';
import { inCupboard, OPEN_CLASS } from '../access/class-state';
import { readCopies } from '../copy/facts';
import type { Tx } from '../db/transaction';
import type { PutJob } from '../jobs/jobs';
import { notify } from '../message/messages';
import type { Using } from '../services';

interface HandedOut {
  assignment: string;
  school: number;
  spec: HandOutSpec;
  due: ReadonlyMap<string, number | null>;
  at: Date;
}

/** Begins, as part of handing out or of a change, the jobs that notify students and remind them before it is due. */
export async function putNotices(
  jobs: PutJob,
  tx: Tx,
  { assignment, school, spec, due, at }: HandedOut,
): Promise<void> {
  await jobs.put(tx, school, 'notify handed out', { assignment });
  for (const [klass, time] of due)
    await putReminder(jobs, tx, {
      assignment,
      class: klass,
      school,
      due: time,
      reminder: spec.reminder,
      at,
    });
}

/** Begins the job that reminds students of a class so many minutes before it is due, where that is still to come. */
export async function putReminder(
  jobs: PutJob,
  tx: Tx,
  of: {
    assignment: string;
    class: string;
    school: number;
    due: number | null;
    reminder: number | null;
    at: Date;
  },
): Promise<void> {
  const { assignment, class: klass, school, due, reminder, at } = of;
  if (due === null || reminder === null) return;
  const when = due - reminder * 60_000;
  if (when > at.getTime())
    await jobs.put(tx, school, 'remind', { assignment, class: klass }, new Date(when));
}

/** The classes of an assignment whose students see it. */
const classesOf = ({ db }: Using<'db'>, assignment: string) =>
  db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_id')
    .innerJoin('class', 'class.id', 'class_id')
    .select(['class.id', 'class.name', 'class.school_id as school', 'title', 'reminder'])
    .select(['handed_out_at', 'class.opened_at'])
    .where('assignment_id', '=', assignment)
    .where('withdrawn_at', 'is', null)
    .where(OPEN_CLASS)
    .where((eb) => eb.not(inCupboard('assignment_class.unit_id')))
    .execute();

/** Everybody's first page of it, in order. */
function firstPages(copies: readonly CopyRow[]): Map<string, CopyRow> {
  const pages = new Map<string, CopyRow>();
  for (const copy of copies)
    for (const member of copy.members) if (!pages.has(member)) pages.set(member, copy);
  return pages;
}

/** What each person was last told of when an assignment is due for them, by person. */
async function readLastNotified({ db }: Using<'db'>, assignment: string) {
  const rows = await db
    .selectFrom('message')
    .distinctOn('person_id')
    .select(['id', 'person_id', 'fact'])
    .where(sql`fact ->> 'assignment'`, '=', assignment)
    .where(sql`fact ->> 'kind'`, 'in', ['handed out', 'due moved', 'excused'])
    .orderBy('person_id')
    .orderBy('at', 'desc')
    .execute();
  return new Map(
    rows.map(({ id, person_id, fact: kept }) => {
      const fact = MessageFact.parse(kept);
      const isExcused = fact.kind === 'excused' && fact.excused;
      const due =
        fact.kind === 'due moved' ? fact.to : 'due' in fact && !isExcused ? fact.due : null;
      return [person_id, { id, due, isExcused }];
    }),
  );
}

/** Handed out while its class was closed, it came when that opened. */
const laterOf = (one: Date, other: Date | null): Date => (other && other > one ? other : one);

/**
 * The job: notifies students of what they were handed out and, where their own due time is another than they were last
 * notified, of that. It compares facts, so it may run whenever something changed.
 */
export async function notifyHandedOut(app: Using<'db'>, assignment: string): Promise<void> {
  const notified = await readLastNotified(app, assignment);
  for (const klass of await classesOf(app, assignment)) {
    const copies = await readCopies(app.db, { class: klass.id, assignment }, '');
    const about = { assignment, class: klass.name, title: klass.title };
    const notices = [...firstPages(copies)].flatMap(([person, { id, facts }]) => {
      const last = notified.get(person);
      const to = { school: klass.school, people: [person], link: `/work/${id}` };
      if (!last)
        return {
          ...to,
          at: laterOf(klass.handed_out_at, klass.opened_at),
          fact: { kind: 'handed out' as const, ...about, due: facts.due },
          cause: `handed out ${assignment}`,
        };
      // Two jobs at once go on from the same message, and one of them notifies.
      const next = { ...to, at: new Date(), cause: `due ${assignment} after ${last.id}` };
      const { due, allowance } = facts;
      const excused = allowance === 'excused';
      if (excused !== last.isExcused)
        return { ...next, fact: { kind: 'excused' as const, ...about, excused, due } };
      if (excused || last.due === due) return [];
      const extension = allowance === 'extension';
      const moved = { kind: 'due moved' as const, from: last.due, to: due, extension };
      return { ...next, fact: { ...about, ...moved } };
    });
    await notify(app.db, ...notices);
  }
}

/** The job: reminds who has not handed in, once the time before their own due time has come. */
export async function remind(
  app: Using<'db'>,
  { assignment, class: id }: { assignment: string; class: string },
  now: number,
): Promise<void> {
  const klass = (await classesOf(app, assignment)).find((one) => one.id === id);
  if (!klass || klass.reminder === null) return;
  const before = klass.reminder * 60_000;
  const copies = (await readCopies(app.db, { class: id, assignment }, '')).flatMap((copy) => {
    const wanting = copy.members.filter((student) => {
      const facts = factsFor(copy, student);
      return wantsReminder(facts, now) && (facts.due ?? 0) - before <= now;
    });
    return asksForWork(copy) ? { ...copy, members: wanting } : [];
  });
  const notices = [...firstPages(copies)].flatMap(
    ([
      person,
      {
        id: page,
        facts: { due },
      },
    ]) =>
      due === null
        ? []
        : {
            school: klass.school,
            people: [person],
            link: `/work/${page}`,
            fact: {
              kind: 'due soon' as const,
              assignment,
              class: klass.name,
              title: klass.title,
              due,
            },
            cause: `due soon ${assignment} ${due}`,
          },
  );
  await notify(app.db, ...notices);
}
