import { sql } from 'kysely';
import { z } from 'zod';
import { copyFacts, groupsOf, isNothing, planChange, type CopyChange } from '$core/handout/change';
import { ChangeFact } from '$core/handout/change-facts';
import { fieldFacts } from '$core/handout/field-facts';
import { planHandOut, type HandOutPlan, type Situation } from '$core/handout/plan';
import { sayChangeFact } from '$core/handout/say-change';
import type { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { handInWhatIsDone } from '../copy/all-done';
import { holdClasses } from '../class/hold-classes';
import type { Using } from '../services';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { carryOut } from './copies';
import { assignmentColumns, dateOf, recordOriginals, titleOf } from './hand-out';
import { readHandedOut } from './handed-out';
import type { CheckedSpec } from './rights';
import { putNotices } from './notify-students';
import { inTransaction, type Tx } from '../db/transaction';

type Change = Grant<'change the assignment'>;

export interface ChangeSpec {
  spec: CheckedSpec;
  /** What own pages begin as where students shared one. */
  begin: 'shared page' | 'original';
  /** The newest change that whoever makes this one has seen; null for none, left out where that does not matter. */
  seen?: string | null;
  at: Date;
  /** When the change was made that this one undoes. */
  undoes?: Date;
  /** When it is due in each class, where that is known: undoing gives back the very times. Epoch milliseconds. */
  due?: Record<string, number | null>;
  /** By which groups it goes in each class, where those are known: undoing gives back the very groups. */
  groups?: Record<string, KnownGroup[]>;
}
type KnownGroup = { name: string; members: readonly string[] };

interface Prepared {
  school: number;
  was: HandOutSpec;
  plan: HandOutPlan;
  situation: Situation;
  change: CopyChange;
  due: Map<string, number | null>;
  wasDue: Record<string, number | null>;
  wasGroups: Record<string, KnownGroup[]>;
  gone: string[];
  facts: ChangeFact[];
  timeZone: string;
}

/** What a change comes to, from the same plan that then happens. */
async function prepare(
  app: Using<'memory'>,
  db: Connection,
  assignment: string,
  { spec: { spec }, begin, at, due: known = {}, groups = {} }: ChangeSpec,
  lock: boolean,
): Promise<Prepared> {
  const now = at.getTime();
  const found = await readHandedOut(app.memory, db, assignment, { now, lock, plans: spec });
  const { spec: was, school, timeZone, standing, present } = found;
  const situation: Situation = {
    ...found.situation,
    classes: found.situation.classes.map((klass) => ({
      ...klass,
      groups: groups[klass.id] ?? klass.groups,
    })),
  };
  if (was.form !== spec.form)
    throw new Refusal(
      400,
      'An assignment with pages cannot become one without, or the other way round.',
    );
  const handed = await db
    .selectFrom('assignment_class')
    .innerJoin('class', 'class.id', 'assignment_class.class_id')
    .select(['class.id', 'class.name', 'due_at', 'withdrawn_at'])
    .where('assignment_id', '=', assignment)
    .execute();
  if (situation.classes.length < spec.classes.length)
    throw new Refusal(404, 'One of the classes does not exist any more.');
  const plan = planHandOut(spec, situation);
  const change = planChange(standing, plan.copies, present, begin);
  const gone = handed.filter(
    ({ id, withdrawn_at }) =>
      withdrawn_at === null && !spec.classes.some((one) => one.class === id),
  );
  const due = new Map(
    situation.classes.map(({ id }) => {
      const before = handed.find((one) => one.id === id);
      const same = before && JSON.stringify(dueOf(was, id)) === JSON.stringify(dueOf(spec, id));
      if (id in known) return [id, known[id] ?? null] as const;
      return [id, same ? (before.due_at?.getTime() ?? null) : (plan.due.get(id) ?? null)] as const;
    }),
  );
  const dues = situation.classes.flatMap(({ id, name }) => {
    const before = handed.find((one) => one.id === id);
    return before
      ? [{ name, was: before.due_at?.getTime() ?? null, becomes: due.get(id) ?? null }]
      : [];
  });
  const facts: ChangeFact[] = [
    ...copyFacts(change),
    ...fieldFacts(was, spec, dues),
    ...(await morePoints(db, assignment, was.points, spec.points)),
    ...gone.map(({ name }) => ({ kind: 'withdrawn' as const, class: name })),
  ];
  const wasDue = Object.fromEntries(
    handed.map(({ id, due_at }) => [id, due_at?.getTime() ?? null]),
  );
  return {
    school,
    was,
    plan,
    situation,
    change,
    due,
    wasDue,
    wasGroups: Object.fromEntries(
      was.classes.flatMap(({ class: id }) => {
        const known = groupsOf(standing, id);
        return known.length > 0 ? [[id, known] as const] : [];
      }),
    ),
    gone: gone.map(({ id }) => id),
    facts,
    timeZone,
  };
}

/** Whether points that were typed are more than an assignment is to count for; those by a rubric go with it. */
async function morePoints(
  db: Connection,
  assignment: string,
  was: string | null,
  becomes: string | null,
): Promise<ChangeFact[]> {
  if (becomes === null || becomes === was) return [];
  const { rows } = await sql<{ n: number }>`
    select count(*)::int as n from (
      select distinct on (score.page_id) score.points from score join page on page.id = score.page_id
      where page.assignment_id = ${assignment} order by score.page_id, score.id desc) last
    where points > ${becomes}::numeric`.execute(db);
  const copies = rows[0]?.n ?? 0;
  return copies > 0 ? [{ kind: 'more points', copies, becomes }] : [];
}

const dueOf = (spec: HandOutSpec, klass: string) =>
  spec.classes.find((one) => one.class === klass)?.due ?? spec.due;

/** What a change would do, with what may surprise. Nothing happens by asking. */
export async function previewChange(app: Using<'db' | 'memory'>, grant: Change, spec: ChangeSpec) {
  const { facts, plan, timeZone } = await prepare(app, app.db, grant.thing.id, spec, false);
  return { facts, oddities: plan.oddities, timeZone };
}

/**
 * Changes an assignment after it was handed out: who gets it and how, when it is due, what it counts for. One transaction.
 * @returns what was done
 */
export async function changeAssignment(
  app: Using<'db' | 'jobs' | 'memory' | 'news'>,
  grant: Change,
  spec: ChangeSpec,
): Promise<ChangeFact[]> {
  const { facts, classes } = await inTransaction(app.db, (tx) =>
    changeWithin(app, tx, grant, spec),
  );
  publishToClasses(app, classes);
  return facts;
}

async function changeWithin(
  app: Using<'jobs' | 'memory'>,
  tx: Tx,
  grant: Change,
  spec: ChangeSpec,
) {
  const { at } = spec;
  const becomes = spec.spec.spec;
  const assignment = grant.thing.id;
  const by = grant.person.id;
  await holdClasses(tx, [
    ...new Set([...grant.thing.classes, ...becomes.classes.map((one) => one.class)]),
  ]);
  const prepared = await prepare(app, tx, assignment, spec, true);
  if (spec.seen !== undefined) await refuseUnseen(tx, assignment, spec.seen, prepared.timeZone);
  const { school, was, situation, change, due, gone, facts } = prepared;
  const classes = [...becomes.classes.map((one) => one.class), ...gone];
  if (facts.length === 0 && JSON.stringify(was) === JSON.stringify(becomes))
    return { facts, classes };
  await tx
    .updateTable('assignment')
    .set({ ...assignmentColumns(becomes), spec: JSON.stringify(becomes) })
    .where('id', '=', assignment)
    .execute();
  await tx
    .insertInto('assignment_class')
    .values(
      becomes.classes.map((one) => ({
        assignment_id: assignment,
        school_id: school,
        class_id: one.class,
        unit_id: one.unit,
        handed_out_at: at,
        due_at: dateOf(due.get(one.class) ?? null),
      })),
    )
    .onConflict((conflict) =>
      conflict.columns(['assignment_id', 'class_id']).doUpdateSet((eb) => ({
        unit_id: eb.ref('excluded.unit_id'),
        due_at: eb.ref('excluded.due_at'),
        changed_at: at,
        // A class that was left out of the spec comes back with it; one that was withdrawn by hand stays so.
        withdrawn_at: eb
          .case()
          .when(
            'assignment_class.class_id',
            'in',
            was.classes.map((one) => one.class),
          )
          .then(eb.ref('assignment_class.withdrawn_at'))
          .else(null)
          .end(),
      })),
    )
    .execute();
  if (gone.length > 0)
    await tx
      .updateTable('assignment_class')
      .set({ withdrawn_at: at, changed_at: at })
      .where('assignment_id', '=', assignment)
      .where('class_id', 'in', gone)
      .execute();
  const versions = await recordOriginals(app.memory, tx, {
    assignment,
    school,
    spec: becomes,
    blank: situation.blank,
    at,
  });
  const title = titleOf(becomes, situation);
  const undoes = spec.undoes ?? null;
  const copies = { assignment, school, guarded: becomes.guarded, at, undoes, title, versions };
  if (!isNothing(change)) await carryOut(app.memory, tx, copies, change);
  const originals = [...new Set(prepared.plan.copies.map((copy) => copy.for))];
  await sql`update page set guarded = ${becomes.guarded}, title = coalesce(named.title, page.title)
    from (select * from unnest(${originals}::uuid[], ${originals.map(title)}::text[]) as of(id, title)) named
    where page.assignment_id = ${assignment} and page.for_id = named.id
      and (page.guarded, page.title) is distinct from (${becomes.guarded}::boolean, named.title)`.execute(
    tx,
  );
  await tx
    .insertInto('assignment_change')
    .values({
      school_id: school,
      assignment_id: assignment,
      made_by: by,
      made_at: at,
      was: JSON.stringify({ spec: was, due: prepared.wasDue, groups: prepared.wasGroups }),
      became: JSON.stringify({ spec: becomes }),
      facts: JSON.stringify(facts),
    })
    .execute();
  await handInWhatIsDone(tx, { assignment });
  await putNotices(app.jobs, tx, { assignment, school, spec: becomes, due, at });
  return { facts, classes };
}

/** @throws Refusal when somebody changed the assignment since, with what they did */
async function refuseUnseen(tx: Tx, assignment: string, seen: string | null, timeZone: string) {
  const newest = await tx
    .selectFrom('assignment_change')
    .innerJoin('person', 'person.id', 'assignment_change.made_by')
    .select(['assignment_change.id', 'facts', 'given', 'called'])
    .where('assignment_id', '=', assignment)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!newest || newest.id === seen) return;
  const says = z
    .array(ChangeFact)
    .parse(newest.facts)
    .map((fact) => sayChangeFact(fact, timeZone))
    .join(' ');
  throw new Refusal(
    409,
    `${newest.called || newest.given} changed this assignment meanwhile: ${says} Nothing else was done. Open it again to decide on what stands now.`,
  );
}

/** Takes an assignment out of the sight of a class's students, or brings it back. Nothing of it is touched. */
export async function withdraw(
  app: Using<'db' | 'news'>,
  { thing }: Grant<'run the assignment'>,
  withdrawn: boolean,
  at: Date,
): Promise<void> {
  const klass = thing.class.id;
  await app.db
    .updateTable('assignment_class')
    .set({ withdrawn_at: withdrawn ? at : null, changed_at: at })
    .where('assignment_id', '=', thing.id)
    .where('class_id', '=', klass)
    // Withdrawn twice, it was withdrawn when it was first.
    .where('withdrawn_at', withdrawn ? 'is' : 'is not', null)
    .execute();
  publishToClasses(app, [klass]);
}
