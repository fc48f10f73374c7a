import { z } from 'zod';
import { planBuild, type BuildSpec } from '$core/course/build-plan';
import { GradeRules } from '$core/grades/rules';
import { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { grantInClass } from '../access/in-the-name-of';
import type { ClassThing } from '../access/relation';
import type { Using } from '../services';
import { readTimetables } from '../calendar/timetables';
import { copyPages } from '../course/copy-pages';
import type { Holder } from '../course/units';
import type { Connection } from '../page/page-store';
import { publishToStaff } from '../live/listeners';
import { Refusal, refusalIn } from '../page/refusal';
import { bringDrafts, specsOf } from './bring-drafts';
import { readBrought, readSource } from './build-source';
import { holdClasses } from './hold-classes';
import { notify } from '../message/messages';
import { inTransaction } from '../db/transaction';

/** How many pages come in one transaction: progress shows after each, and a crash costs no more. */
const PORTION = 50;

/** What the job works from: the plan as it was agreed to. */
const KeptPlan = z.object({
  units: z.array(z.object({ from: z.string().nullable(), title: z.string() })),
  pages: z.array(
    z.object({
      id: z.string(),
      unit: z.string().nullable(),
      area: z.enum(['shelf', 'worktable', 'cupboard']),
    }),
  ),
  drafts: z.array(HandOutSpec).default([]),
  copies: z.array(z.string()).default([]),
  undated: z.array(z.string()).default([]),
  rules: GradeRules.nullable().default(null),
});
type KeptPlan = z.infer<typeof KeptPlan>;

/**
 * Begins to build classes from one source, all of them or none; the job does the rest. Each has its own plan: its lessons say
 * when what comes is due.
 * @param grants for classes of one course
 * @returns the buildings' ids, in the order of the grants
 */
export async function beginBuild(
  app: Using<'db' | 'jobs'>,
  grants: readonly [Grant<'manage the class'>, ...Grant<'manage the class'>[]],
  spec: BuildSpec & { source: Holder },
): Promise<string[]> {
  const [{ thing: first, person }] = grants;
  const classes = grants.map(({ thing }) => thing);
  if (classes.some(({ course_id }) => course_id !== first.course_id))
    throw new Refusal(400, 'Classes that are built together are taught from one course.');
  const source = await readSource(app, person, spec.source, first);
  const ids = classes.map(({ id }) => id);
  const timetables = await readTimetables(app.db, person.school_id, ids);
  const brought = await readBrought(app.db, ids);
  const plans = classes.map((klass): [ClassThing, KeptPlan] => {
    const lessons = timetables.get(klass.id);
    if (!lessons) throw new Refusal(404, 'One of the classes does not exist any more.');
    const plan = planBuild(source, spec, { lessons, has: brought.get(klass.id) ?? [] });
    const drafts = specsOf(source, plan, klass.id);
    return [klass, KeptPlan.parse({ ...plan, drafts })];
  });
  return inTransaction(app.db, async (tx) => {
    // One building after the other: pressing twice builds once.
    await tx
      .selectFrom('class')
      .select('id')
      .where('id', 'in', ids)
      .orderBy('id')
      .forUpdate()
      .execute();
    const running = await tx
      .selectFrom('class_build')
      .innerJoin('class', 'class.id', 'class_build.class_id')
      .select('class.name')
      .where('class_id', 'in', ids)
      .where('finished_at', 'is', null)
      .where('fault', 'is', null)
      .executeTakeFirst();
    if (running) throw new Refusal(409, `${running.name} is being built already.`);
    const builds: string[] = [];
    for (const [klass, plan] of plans) {
      const { id } = await tx
        .insertInto('class_build')
        .values({
          school_id: klass.school_id,
          class_id: klass.id,
          made_by: person.id,
          spec: JSON.stringify(plan),
          total: plan.pages.length,
        })
        .returning('id')
        .executeTakeFirstOrThrow();
      await app.jobs.put(tx, klass.school_id, 'build class', { build: id });
      builds.push(id);
    }
    return builds;
  });
}

/** The job: goes on where it, or a process that died, left off. */
export async function buildClass(
  app: Using<'db' | 'memory' | 'news'>,
  build: string,
): Promise<void> {
  try {
    while (await buildPortion(app, build));
  } catch (error) {
    // It is tried again; meanwhile it says so, and no other building waits for it.
    const fault = refusalIn(error)?.message ?? 'It stopped on the way, and is tried again.';
    await app.db.updateTable('class_build').set({ fault }).where('id', '=', build).execute();
    throw error;
  }
}

/** @returns whether more is to be done */
async function buildPortion(app: Using<'db' | 'memory' | 'news'>, id: string): Promise<boolean> {
  const at = new Date();
  const done = await inTransaction(app.db, async (tx) => {
    const build = await tx
      .selectFrom('class_build')
      .selectAll()
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst();
    if (!build || build.finished_at) return null;
    await holdClasses(tx, [build.class_id]);
    // Who asked for it may be no longer of its staff.
    await grantInClass(tx, 'manage the class', build.made_by, build.class_id);
    const plan = KeptPlan.parse(build.spec);
    const units = await bringUnits(tx, build, plan.units);
    const there = await tx
      .selectFrom('page')
      .select('from_id')
      .where('build_id', '=', id)
      .execute();
    const have = new Set(there.map(({ from_id }) => from_id));
    const missing = plan.pages.filter((page) => !have.has(page.id));
    const portion = missing.slice(0, PORTION);
    for (const { unit, area, pages } of alike(portion))
      await copyPages(app.memory, tx, {
        school: build.school_id,
        pages,
        unit: units.get(unit ?? '') ?? null,
        at,
        build: id,
        in: { kind: 'class page', class: build.class_id, area },
      });
    const finished = missing.length <= PORTION;
    await tx
      .updateTable('class_build')
      .set({
        done: plan.pages.length - missing.length + portion.length,
        finished_at: finished ? at : null,
        fault: null,
      })
      .where('id', '=', id)
      .execute();
    if (finished) {
      await bringDrafts(tx, build, plan, units, at);
      if (plan.rules) await bringRules(tx, build.class_id, plan.rules);
      await notifyBuilt(tx, build, plan);
    }
    return { klass: build.class_id, finished };
  });
  if (!done) return false;
  publishToStaff(app, done.klass);
  return !done.finished;
}

/** Makes the units that are not there yet. @returns the class's unit for each unit that came */
async function bringUnits(
  tx: Connection,
  build: { class_id: string; school_id: number },
  units: KeptPlan['units'],
): Promise<Map<string, string>> {
  const known = await tx
    .selectFrom('unit')
    .select(['id', 'from_id', 'title', 'place'])
    .where('class_id', '=', build.class_id)
    .where('away_at', 'is', null)
    .execute();
  let place = Math.max(-1, ...known.map((unit) => unit.place));
  const map = new Map<string, string>();
  for (const { from, title } of units) {
    const there = known.find((unit) => (from ? unit.from_id === from : unit.title === title));
    const { id } =
      there ??
      (await tx
        .insertInto('unit')
        .values({
          school_id: build.school_id,
          class_id: build.class_id,
          title,
          from_id: from,
          place: ++place,
        })
        .returning('id')
        .executeTakeFirstOrThrow());
    if (from) map.set(from, id);
  }
  return map;
}

/** Rules that somebody has given to the class already stay. */
const bringRules = (tx: Connection, klass: string, rules: GradeRules) =>
  tx
    .updateTable('class')
    .set({ grade_rules: JSON.stringify(rules) })
    .where('id', '=', klass)
    .where('grade_rules', 'is', null)
    .execute();

type Planned = KeptPlan['pages'];

/** Pages that go to the same place, together and in their order. */
function alike(portion: Planned) {
  const groups: { unit: string | null; area: Planned[number]['area']; pages: string[] }[] = [];
  for (const { id, unit, area } of portion) {
    const group = groups.find((one) => one.unit === unit && one.area === area);
    if (group) group.pages.push(id);
    else groups.push({ unit, area, pages: [id] });
  }
  return groups;
}

async function notifyBuilt(
  tx: Connection,
  build: { id: string; class_id: string; school_id: number; made_by: string },
  plan: KeptPlan,
) {
  const klass = await tx
    .selectFrom('class')
    .select('name')
    .where('id', '=', build.class_id)
    .executeTakeFirstOrThrow();
  await notify(tx, {
    school: build.school_id,
    people: [build.made_by],
    cause: `class built ${build.id}`,
    fact: {
      kind: 'class built',
      class: klass.name,
      pages: plan.pages.length,
      drafts: plan.drafts.length,
      undated: plan.undated,
    },
    link: `/classes/${build.class_id}/plan`,
  });
}

/** How far the newest building of a class is. */
export async function readBuild(db: Connection, klass: string) {
  const row = await db
    .selectFrom('class_build')
    .select(['id', 'total', 'done', 'finished_at', 'fault'])
    .where('class_id', '=', klass)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { ...row, finished_at: row.finished_at?.getTime() ?? null } : null;
}
