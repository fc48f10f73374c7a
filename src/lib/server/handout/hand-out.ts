import { holdClasses } from '../class/hold-classes';
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { planChange } from '$core/handout/change';
import { planHandOut, type HandOutPlan, type Situation } from '$core/handout/plan';
import type { HandOutSpec } from '$core/handout/spec';
import type { Using } from '../services';
import type { Connection } from '../page/page-store';
import type { PageMemory } from '../page/page-memory';
import { HeldPage } from '../page/held-page';
import { Refusal } from '../page/refusal';
import { writeSnapshots } from '../page/write-changes';
import { emptyPage } from '$core/page/schema';
import { carryOut, fixSources } from './copies';
import { publishToClasses } from '../live/listeners';
import { readSituation } from './situation';
import type { CheckedSpec } from './rights';
import { putNotices } from './notify-students';
import { inTransaction, type Tx } from '../db/transaction';

export interface HandOut {
  /** The browser's own mark of this hand-out: pressing twice makes one assignment. */
  id: string;
  at: Date;
}

/**
 * Hands out: the assignment, its classes and every copy of the plan, in one transaction.
 * @returns the plan that was carried out
 * @throws Refusal when a page or a class is gone, or when it was handed out already
 */
export async function handOut(
  app: Using<'db' | 'jobs' | 'memory' | 'news'>,
  { spec, by }: CheckedSpec,
  { id, at }: HandOut,
): Promise<HandOutPlan> {
  const school = await schoolOf(app.db, by);
  const plan = await inTransaction(app.db, async (tx) => {
    const first = await tx
      .insertInto('assignment')
      .values({
        id,
        school_id: school.id,
        made_by: by,
        made_at: at,
        spec: JSON.stringify(spec),
        ...assignmentColumns(spec),
      })
      .onConflict((conflict) => conflict.column('id').doNothing())
      .returning('id')
      .executeTakeFirst();
    if (!first) throw new Refusal(409, 'This was handed out already.');
    const now = at.getTime();
    const blank = spec.form === 'done or not' ? await beginBlank(tx, school.id, spec, at) : '';
    await holdClasses(
      tx,
      spec.classes.map((one) => one.class),
    );
    const situation = await readSituation(app.memory, tx, spec, {
      now,
      goesOut: now,
      timeZone: school.time_zone,
      school: school.id,
      blank,
    });
    if (situation.classes.length < spec.classes.length)
      throw new Refusal(404, 'One of the classes does not exist any more.');
    const made = planHandOut(spec, situation);
    await tx
      .insertInto('assignment_class')
      .values(
        spec.classes.map((one) => ({
          assignment_id: id,
          school_id: school.id,
          class_id: one.class,
          unit_id: one.unit,
          handed_out_at: at,
          due_at: dateOf(made.due.get(one.class) ?? null),
        })),
      )
      .execute();
    const versions = await recordOriginals(app.memory, tx, {
      assignment: id,
      school: school.id,
      spec,
      blank,
      at,
    });
    const copies = {
      assignment: id,
      school: school.id,
      guarded: spec.guarded,
      at,
      title: titleOf(spec, situation),
      versions,
    };
    await carryOut(app.memory, tx, copies, planChange([], made.copies, new Set()));
    const { due } = made;
    await putNotices(app.jobs, tx, { assignment: id, school: school.id, spec, due, at });
    return made;
  });
  publishToClasses(
    app,
    spec.classes.map((one) => one.class),
  );
  return plan;
}

export const dateOf = (instant: number | null) => (instant === null ? null : new Date(instant));

async function schoolOf(db: Connection, person: string) {
  return db
    .selectFrom('person')
    .innerJoin('school', 'school.id', 'person.school_id')
    .select(['school.id', 'time_zone'])
    .where('person.id', '=', person)
    .executeTakeFirstOrThrow();
}

/** What each copy is called: the assignment's title, and the page's own where there are several. */
export const titleOf =
  (spec: HandOutSpec, { pages }: Situation) =>
  (original: string): string =>
    spec.originals.length > 1
      ? `${spec.title}: ${pages.get(original)?.title ?? ''}`.slice(0, 300)
      : spec.title;

/** What of a spec stands in the assignment's own row. */
export const assignmentColumns = (spec: HandOutSpec) => ({
  title: spec.title,
  instructions: spec.instructions,
  points: spec.points,
  guarded: spec.guarded,
  category: spec.category,
  rubric_id: spec.rubric,
  form: spec.form,
  late: spec.late,
  hand_in: spec.handIn,
  marking: spec.marking,
  reminder: spec.reminder,
});

/** The empty page that copies without a page begin as; it lies out of sight in the first class's cupboard. */
async function beginBlank(tx: Tx, school: number, spec: HandOutSpec, at: Date): Promise<string> {
  const id = randomUUID();
  await tx
    .insertInto('page')
    .values({
      id,
      school_id: school,
      kind: 'class page',
      area: 'cupboard',
      title: spec.title,
      class_id: spec.classes[0]?.class ?? null,
      away_at: at,
      made_at: at,
    })
    .execute();
  await writeSnapshots(tx, at, [{ id, school, held: HeldPage.at(0, emptyPage(), []) }]);
  return id;
}

/**
 * Remembers the pages of an assignment and in which version they were handed out. One that is there already stays.
 * @returns the versions that stand as snapshots now, by page
 */
export async function recordOriginals(
  memory: PageMemory,
  tx: Tx,
  {
    assignment,
    school,
    spec,
    blank,
    at,
  }: {
    assignment: string;
    school: number;
    spec: HandOutSpec;
    blank: string;
    at: Date;
  },
): Promise<Map<string, number>> {
  const originals =
    spec.form === 'done or not' ? [{ page: blank, delivery: 'one each' as const }] : spec.originals;
  const adapted = spec.adapted.map(({ page, instead }) => ({
    page,
    instead_of: instead,
    delivery: originals.find((one) => one.page === instead)?.delivery ?? ('one each' as const),
  }));
  const own = originals.map((one) => ({ ...one, instead_of: null }));
  const all = new Map([...adapted, ...own].map((one) => [one.page, one]));
  const versions = await fixSources(memory, tx, { assignment, school, at }, all.keys());
  await refuseWrittenPages(tx, assignment, [...all.keys()]);
  if (all.size > 0)
    await tx
      .insertInto('assignment_original')
      .values(
        [...all.values()].map(({ page, delivery, instead_of }) => ({
          assignment_id: assignment,
          school_id: school,
          page_id: page,
          delivery,
          instead_of,
          version: versions.get(page) ?? 0,
        })),
      )
      .onConflict((conflict) =>
        conflict
          .columns(['assignment_id', 'page_id'])
          .doUpdateSet((eb) => ({ delivery: eb.ref('excluded.delivery') })),
      )
      .execute();
  return versions;
}

/**
 * What students wrote together is not handed out as something to begin from; what an assignment has already stays.
 * @throws Refusal that names the page
 */
async function refuseWrittenPages(tx: Tx, assignment: string, pages: readonly string[]) {
  const { rows } = await sql<{ title: string }>`
    select title from page where id = any(${pages}::uuid[]) and kind = 'class page'
      and not exists (select from assignment_original
        where assignment_id = ${assignment} and page_id = page.id)
      and exists (select from step_writer join person on person.id = author_id
        where page_id = page.id and person.role = 'student') limit 1`.execute(tx);
  const [written] = rows;
  if (written)
    throw new Refusal(
      409,
      `Students have written in “${written.title}”, so nobody else gets it to begin from. Please hand out a page of a course, or of the cupboard.`,
    );
}
