import { sql } from 'kysely';
import { z } from 'zod';
import { isAccepted } from '$core/copy/state';
import { planChange, type CopyChange } from '$core/handout/change';
import { planHandOut, type PlannedCopy } from '$core/handout/plan';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readStudents } from '../class/board';
import { publishToClasses } from '../live/listeners';
import { notify } from '../message/messages';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { carryOut, readStandingCopies } from './copies';
import { titleOf } from './hand-out';
import { readHandedOut } from './handed-out';
import { inTransaction } from '../db/transaction';

/** What was given: copies that were made or brought back, and places in pages that others share. */
export const Given = z.object({
  copies: z.array(z.uuid()).max(5000),
  places: z.array(z.object({ copy: z.uuid(), student: z.uuid() })).max(5000),
});
export type Given = z.infer<typeof Given>;

/** What of a change gives something to one of these people. */
function onlyFor(change: CopyChange, people: ReadonlySet<string>): CopyChange {
  const theirs = ({ members }: Pick<PlannedCopy, 'members'>) =>
    members.some((id) => people.has(id));
  return {
    keep: [],
    withdraw: [],
    make: change.make.filter(theirs),
    back: change.back.filter(theirs),
    members: change.members.filter(theirs),
    move: change.move.filter(({ copy }) => theirs(copy)),
  };
}

/**
 * Gives people what an assignment has for them and they do not have yet: a copy, a place in their group's or the class's,
 * or the copy they wrote in another of its classes.
 * @returns what they were given, by which it can be taken back
 */
async function giveMissing(
  app: Using<'db' | 'memory'>,
  assignment: string,
  people: ReadonlySet<string>,
  at: Date,
): Promise<Given> {
  return inTransaction(app.db, async (tx) => {
    const found = await readHandedOut(app.memory, tx, assignment, {
      now: at.getTime(),
      lock: true,
    });
    const { spec, school, standing, situation, present } = found;
    const wanted = planHandOut(spec, situation).copies;
    const change = onlyFor(planChange(standing, wanted, present), people);
    const copies = {
      assignment,
      school,
      guarded: spec.guarded,
      at,
      versions: new Map(),
    };
    await carryOut(app.memory, tx, { ...copies, title: titleOf(spec, situation) }, change);
    const current = (copies: typeof standing) =>
      copies.filter((copy) => copy.standing === 'current').map(({ id }) => id);
    const before = new Set(current(standing));
    return {
      copies: current(await readStandingCopies(tx, assignment)).filter((id) => !before.has(id)),
      places: change.members.flatMap(({ copy, members }) =>
        members
          .filter((id) => !copy.members.includes(id))
          .map((student) => ({ copy: copy.id, student })),
      ),
    };
  });
}

/** Gives those of the class who lack it what an assignment has for them. @throws Refusal when somebody is not in the class */
export async function giveTo(
  app: Using<'db' | 'memory' | 'news'>,
  { thing }: Grant<'run the assignment'>,
  people: readonly string[],
  at: Date,
): Promise<Given> {
  const students = new Set((await readStudents(app.db, thing.class.id)).map(({ id }) => id));
  if (!people.every((id) => students.has(id)))
    throw new Refusal(404, 'Somebody named is not in the class.');
  const given = await giveMissing(app, thing.id, new Set(people), at);
  publishToClasses(app, [thing.class.id]);
  return given;
}

/**
 * Who has gone from one class to another that has the same assignments: their copies go with them, whatever the class's rule
 * for joiners says. It may be called whenever somebody came or went.
 */
export async function followMovers(
  app: Using<'db' | 'memory' | 'news'>,
  people: readonly string[],
  at: Date,
): Promise<void> {
  const rows = await app.db
    .selectFrom('page')
    .innerJoin('enrolment as went', (join) =>
      join
        .onRef('went.class_id', '=', 'page.class_id')
        .onRef('went.person_id', '=', 'page.student_id'),
    )
    .innerJoin('class as old', 'old.id', 'page.class_id')
    .innerJoin('assignment_class as handed', (join) =>
      join
        .onRef('handed.assignment_id', '=', 'page.assignment_id')
        .onRef('handed.class_id', '<>', 'page.class_id'),
    )
    .innerJoin('enrolment as now_in', (join) =>
      join
        .onRef('now_in.class_id', '=', 'handed.class_id')
        .onRef('now_in.person_id', '=', 'page.student_id'),
    )
    .select(['handed.assignment_id as assignment', 'handed.class_id as class', 'page.student_id'])
    .distinct()
    .where('page.student_id', '=', sql<string>`any(${people}::uuid[])`)
    .where('page.kind', '=', 'copy')
    .where('old.archived_at', 'is', null)
    .where('went.left_at', 'is not', null)
    .where('now_in.left_at', 'is', null)
    .execute();
  // Nobody else: who joined for the first time gets what the class's rule says.
  for (const [assignment, theirs] of grouped(rows, (row) => row.assignment))
    await giveMissing(app, assignment, new Set(theirs.flatMap((row) => row.student_id ?? [])), at);
  if (rows.length > 0)
    publishToClasses(
      app,
      rows.map((row) => row.class),
    );
}

/** The assignments of a class whose students see them. */
const handedOutIn = (db: Connection, klass: string) =>
  db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.title', 'assignment.late', 'due_at'])
    .where('class_id', '=', klass)
    .where('withdrawn_at', 'is', null)
    .where('spec', 'is not', null)
    .execute();

/** Those who joined a class get of what was handed out before what the class's rule says. */
export async function receiveJoiners(
  app: Using<'db' | 'memory' | 'news'>,
  klass: { id: string; name: string; school_id: number },
  people: readonly string[],
  at: Date,
): Promise<void> {
  if (people.length === 0) return;
  const { join_rule } = await app.db
    .selectFrom('class')
    .select('join_rule')
    .where('id', '=', klass.id)
    .executeTakeFirstOrThrow();
  if (join_rule === 'coming') return;
  const open = (await handedOutIn(app.db, klass.id)).filter(({ due_at, late }) =>
    isAccepted(late, due_at?.getTime() ?? null, at.getTime()),
  );
  if (open.length === 0) return;
  if (join_rule === 'ask') {
    const staff = await app.db
      .selectFrom('class_staff')
      .select('person_id')
      .where('class_id', '=', klass.id)
      .where('kind', '<>', 'marker')
      .execute();
    await notify(app.db, {
      school: klass.school_id,
      people: staff.map(({ person_id }) => person_id),
      cause: `joined ${klass.id} ${at.getTime()}`,
      link: `/classes/${klass.id}`,
      fact: {
        kind: 'joined',
        class: klass.name,
        students: people.length,
        open: open.length,
      },
    });
    return;
  }
  for (const { id } of open) await giveMissing(app, id, new Set(people), at);
  publishToClasses(app, [klass.id]);
}
