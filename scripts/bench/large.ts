import { setTimeout as pause } from 'node:timers/promises';
import { sql } from 'kysely';
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { schema } from '../../src/lib/core/page/schema';
import { doneMask, partsOf } from '../../src/lib/core/page/parts';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { grantByRole, grantInClass } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { viewBoard } from '../../src/lib/server/class/view-class';
import { readBehind } from '../../src/lib/server/desk/behind';
import { readDesk } from '../../src/lib/server/desk/desk';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { newPage } from '../../tests/support/grants';
import { addPerson, type TestSchool } from '../../tests/support/school';
import { figure, quantile, timed } from './figure';
import { makeClasses } from './views';

const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];
const [CLASSES, SIZE, ASSIGNMENTS] = [60, 25, 40];
/** On each copy, in three sittings: five million in all. */
const STEPS = 84;
const SITTINGS = 3;
/** So many kinds of students there are, each with their own hours. */
const HABITS = 10;

/** When the steps of a copy were made, by its student's habits: milliseconds after it was handed out. */
const timesOf = (habit: number) =>
  Array.from({ length: STEPS }, (_, i) => {
    const sitting = Math.floor((i * SITTINGS) / STEPS);
    return (sitting + 1) * DAY + habit * 37 * MINUTE + (i % (STEPS / SITTINGS)) * 20_000;
  });

/** A year of work in some classes, as it lies in the database: typed, handed in, scored, handed back. */
async function fillClasses(
  app: App,
  school: TestSchool,
  { page, place, original }: { page: Node; place: number; original: string },
  classes: readonly string[],
) {
  const letter = new Slice(Fragment.from(schema.text('a')), 0, 0);
  const bodies = Array.from({ length: STEPS }, (_, i) =>
    new ReplaceStep(place + i, place + i, letter).toJSON(),
  );
  const mask = doneMask(partsOf(page)).replace(/^./, '1');
  for (let n = 0; n < ASSIGNMENTS; n++) {
    const due = Date.now() + (n - ASSIGNMENTS + 4) * 3 * DAY;
    const at = new Date(due - 6 * DAY);
    const id = crypto.randomUUID();
    const spec = plainSpec(original, classes[0] ?? '', {
      title: `Work ${n}`,
      points: '10',
      due: { kind: 'at', local: new Date(due).toISOString().slice(0, 16) },
      classes: classes.map((one) => ({ class: one, unit: null, grouping: null, due: null })),
    });
    await handOut(app, await CheckedSpec.check(app, school.teacher, spec), { id, at });
    await sql`update page set made_at = ${at} where assignment_id = ${id}`.execute(app.db);
    const habits = Array.from({ length: HABITS }, (_, habit) => {
      const times = timesOf(habit).map((time) => at.getTime() + time);
      return {
        habit,
        steps: bodies.map((body, i) => [0, i + 1, (times[i] ?? 0) * 1000, body]),
        sittings: Array.from({ length: SITTINGS }, (_, sitting) => {
          const first = (sitting * STEPS) / SITTINGS;
          const last = first + STEPS / SITTINGS - 1;
          return { first: first + 1, last: last + 1, begun: times[first], ended: times[last] };
        }),
        written: times.at(-1),
      };
    }).filter(({ written = 0 }) => written < Date.now());
    const known = sql`jsonb_to_recordset(${JSON.stringify(habits)}::jsonb)
      as known(habit int, steps jsonb, sittings jsonb, written bigint)`;
    const theirs = sql`page.assignment_id = ${id} and abs(hashtext(page.id::text)) % ${HABITS} = known.habit`;
    const instant = (column: string) => sql`to_timestamp(${sql.ref(column)} / 1000.0)`;
    await sql`insert into step_pack (page_id, first, last, school_id, writers, steps)
      select page.id, 1, ${STEPS}, page.school_id,
        jsonb_build_array(jsonb_build_array('bench', page.student_id, ${STEPS}::int)), known.steps
      from page, ${known} where ${theirs}`.execute(app.db);
    await sql`insert into sitting (page_id, person_id, first, last, school_id, begun_at, ended_at, steps)
      select page.id, page.student_id, one.first, one.last, page.school_id,
        ${instant('one.begun')}, ${instant('one.ended')}, ${STEPS / SITTINGS}
      from page, ${known}, jsonb_to_recordset(known.sittings) as one(first int, last int, begun bigint, ended bigint)
      where ${theirs}`.execute(app.db);
    await sql`update page set version = ${STEPS}, words = 1, done_mask = ${mask}, written_at = ${instant('known.written')}
      from ${known} where ${theirs}`.execute(app.db);
    await follow(app, school, id, due);
  }
  await sql`analyze`.execute(app.db);
}

/** What became of the copies of an assignment: of ten nine are handed in, and those that were due are scored and back. */
async function follow(app: App, school: TestSchool, id: string, due: number) {
  const since = (by: number) => new Date(Math.min(due + by, Date.now() - MINUTE));
  const insert = (kind: string, at: Date) => sql`
    insert into event (school_id, page_id, person_id, kind, version, note, at)
    select school_id, id, student_id, ${kind}, ${STEPS}, '', ${at} from page
    where assignment_id = ${id} and version > 0 and abs(hashtext(id::text)) % 100 < 90`;
  await insert('opened', since(-5 * DAY)).execute(app.db);
  const handedIn = due - HOUR < Date.now();
  if (handedIn) await insert('handed in', since(-HOUR)).execute(app.db);
  const back = since(2 * DAY);
  if (due + 2 * DAY < Date.now())
    await sql`with given as (
        insert into score (school_id, page_id, person_id, points, version, at)
        select school_id, id, ${school.teacher}, abs(hashtext(id::text)) % 1000 / 100.0, ${STEPS}, ${back} from page
        where assignment_id = ${id} and version > 0 and abs(hashtext(id::text)) % 100 < 90 returning id, page_id)
      insert into event (school_id, page_id, person_id, kind, version, note, score_id, at)
      select ${school.id}, page_id, ${school.teacher}, 'handed back', ${STEPS}, '', id, ${back} from given`.execute(
      app.db,
    );
  else if (handedIn)
    await sql`update page set with_teacher = true where assignment_id = ${id} and version > 0
      and abs(hashtext(id::text)) % 100 < 90`.execute(app.db);
}

/** Waits until what so much work has begun in the background is done: messages, and what is found. */
async function settle(app: App) {
  for (let quiet = 0; quiet < 5; quiet++) {
    await pause(1000);
    const { rows } = await sql<{ n: string }>`select count(*) as n from pgboss.job
      where state in ('created', 'active', 'retry') and start_after <= now()`.execute(app.db);
    if (Number(rows[0]?.n) > 0) quiet = 0;
  }
}

/**
 * The board of a class and the desk of its teacher in a school of 1,500 students, 60,000 copies and five million steps, beside
 * the same with that class alone; and the board as it stood.
 */
export async function large(
  app: App,
  school: TestSchool,
  page: Node,
  place: number,
): Promise<void> {
  const original = await newPage(
    app.db,
    { in: { kind: 'original', course: school.course }, title: 'Large', at: new Date() },
    page,
  );
  const of = { page, place, original };
  const classes = await makeClasses(app, school, CLASSES, SIZE);
  const [klass = '', ...others] = classes;
  const begins = new Date(Date.now() - 200 * DAY);
  await sql`update enrolment set joined_at = ${begins} where class_id = any(${classes}::uuid[])`.execute(
    app.db,
  );
  const lead = await addPerson(app, school, 'lead', 'teacher');
  await app.db
    .insertInto('class_staff')
    .values({ school_id: school.id, class_id: klass, person_id: lead, kind: 'lead' })
    .execute();
  const teacher = await app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
    .where('id', '=', lead)
    .executeTakeFirstOrThrow();
  const grant = await grantInClass(app.db, 'see the class', lead, klass);
  const desk = await grantByRole(app.db, 'see own desk', lead);
  const p95 = async (read: (turn: number) => Promise<unknown>, turns = 60) => {
    const times: number[] = [];
    for (let turn = 0; turn < turns; turn++)
      times.push(await timed(async () => JSON.stringify(await read(turn))));
    return quantile(times.slice(5), 0.95);
  };
  const now = Date.now();
  const measure = async () => {
    await settle(app);
    return {
      board: await p95(() => viewBoard(app.db, grant)),
      desk: await p95(() => readDesk(app.db, teacher, now)),
      behind: await p95(() => readBehind(app.db, desk, now)),
    };
  };
  await fillClasses(app, school, of, [klass]);
  const alone = await measure();
  await fillClasses(app, school, of, others);
  const { steps } = await app.db
    .selectFrom('page')
    .select((eb) => eb.fn.sum<string>('version').as('steps'))
    .where('class_id', 'in', classes)
    .executeTakeFirstOrThrow();
  figure('large.steps', Number(steps), 'steps');
  const among = await measure();
  figure('board.large', among.board, 'ms', alone.board);
  figure('desk.large', among.desk, 'ms', alone.desk);
  figure('desk.large.behind', among.behind, 'ms', alone.behind);
  // Moments all over the year, in each of which some assignments are being written.
  const asof = await p95(
    (turn) => viewBoard(app.db, grant, new Date(now - (turn + 4) * 2.3 * DAY)),
    40,
  );
  figure('asof.large', asof, 'ms');
}
