import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { PASSWORD } from '../../demo/people';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { rowsFromGradebook } from '../../src/lib/core/formats/gradebook-table';
import { gradeRows } from '../../src/lib/core/grades/gradebook';
import { PLAIN_RULES } from '../../src/lib/core/grades/rules';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { readBoard } from '../../src/lib/server/class/board';
import { readDesk } from '../../src/lib/server/desk/desk';
import { saveRules, viewGradebook } from '../../src/lib/server/grades/gradebook';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { launch, openBrowser, signIn } from '../../tests/support/browser';
import { inClass, newPage } from '../../tests/support/grants';
import type { TestSchool } from '../../tests/support/school';
import { Server } from '../../tests/support/server';
import { figure, quantile, timed } from './figure';

const DAY = 86_400_000;

/** Classes of a teacher, each with students of its own. @returns their ids */
export async function makeClasses(app: App, school: TestSchool, classes: number, size: number) {
  const known = await app.db
    .selectFrom('class')
    .selectAll()
    .where('id', '=', school.class)
    .executeTakeFirstOrThrow();
  const made: string[] = [];
  for (let n = 0; n < classes; n++) {
    const id = crypto.randomUUID();
    made.push(id);
    const of = { school_id: school.id, class_id: id };
    await app.db
      .insertInto('class')
      .values({ ...known, id, name: `Bench ${n} ${id.slice(0, 4)}` })
      .execute();
    await app.db
      .insertInto('class_staff')
      .values({ ...of, person_id: school.teacher, kind: 'lead' })
      .execute();
    await app.db
      .insertInto('enrolment')
      .values(
        school.students
          .slice(n * size, (n + 1) * size)
          .map((person_id) => ({ ...of, person_id, joined_at: new Date() })),
      )
      .execute();
  }
  return made;
}

/** A year of work: as many assignments in all of the classes, all but the last few handed in and handed back. */
export async function makeYear(
  app: App,
  school: TestSchool,
  page: Node,
  classes: readonly string[],
  assignments: number,
  open: number,
) {
  const at = new Date();
  const original = await newPage(
    app.db,
    { in: { kind: 'original', course: school.course }, title: 'Bench', at },
    page,
  );
  for (let n = 0; n < assignments; n++) {
    const id = crypto.randomUUID();
    const due = new Date(Date.now() + (n - assignments + open) * 5 * DAY).toISOString();
    const spec = plainSpec(original, classes[0] ?? '', {
      title: `Work ${n}`,
      points: '10',
      due: { kind: 'at', local: due.slice(0, 16) },
      classes: classes.map((one) => ({ class: one, unit: null, grouping: null, due: null })),
    });
    await handOut(app, await CheckedSpec.check(app, school.teacher, spec), { id, at });
    const done = n < assignments - open;
    for (const [kind, share] of [
      ['opened', 0.9],
      ['handed in', done ? 0.9 : 0.4],
      ['handed back', done ? 0.9 : 0],
    ] as const)
      await sql`insert into event (school_id, page_id, person_id, kind, version, note, at)
        select school_id, id, case when ${kind} = 'handed back' then ${school.teacher}::uuid else student_id end,
          ${kind}, 0, '', now() - interval '1 hour' from page
        where assignment_id = ${id} and abs(hashtext(id::text)) % 100 < ${share * 100}`.execute(
        app.db,
      );
    // Of what is open three in ten are not begun yet.
    await sql`update page set written_at = now() - interval '1 hour' where assignment_id = ${id}
      and abs(hashtext(id::text)) % 100 < ${done ? 90 : 70}`.execute(app.db);
    await sql`update page set with_teacher = true where assignment_id = ${id} and exists (select from event
      where page_id = page.id and kind = 'handed in') and not exists (select from event
      where page_id = page.id and kind = 'handed back')`.execute(app.db);
  }
  await sql`analyze page, event`.execute(app.db);
}

/** The desk of a teacher with ten classes of 25 and forty assignments in each. */
export async function desk10(app: App, school: TestSchool, page: Node): Promise<void> {
  const classes = await makeClasses(app, school, 10, 25);
  await makeYear(app, school, page, classes, 40, 4);
  const teacher = await app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
    .where('id', '=', school.teacher)
    .executeTakeFirstOrThrow();
  const times: number[] = [];
  for (let i = 0; i < 40; i++)
    times.push(
      await timed(async () => {
        JSON.stringify(await readDesk(app.db, teacher, Date.now()));
      }),
    );
  figure('desk.10', quantile(times.slice(5), 0.95), 'ms');
}

/** The gradebook of 50 students and 40 pieces of work, read and counted: what its table is made of. */
export async function gradebook50x40(app: App, school: TestSchool, page: Node): Promise<void> {
  const [klass = ''] = await makeClasses(app, school, 1, 50);
  await makeYear(app, school, page, [klass], 40, 4);
  await sql`with given as (insert into score (school_id, page_id, person_id, points, version)
      select school_id, id, ${school.teacher}, abs(hashtext(id::text)) % 1000 / 100.0, 0 from page
      where class_id = ${klass} and kind = 'copy' returning id, page_id)
    insert into event (school_id, page_id, person_id, kind, version, score_id)
      select ${school.id}, page_id, ${school.teacher}, 'handed back', 0, id from given`.execute(
    app.db,
  );
  await sql`analyze score, event`.execute(app.db);
  const rules = { ...PLAIN_RULES, total: 'points' as const, missing: 'zero' as const };
  await saveRules(app, await inClass(app.db, klass), { rules, version: 0 });
  const grant = await grantInClass(app.db, 'see the class', school.teacher, klass);
  const times: number[] = [];
  for (let i = 0; i < 60; i++)
    times.push(
      await timed(async () => {
        const { students, copies, now, ...book } = await viewGradebook(app.db, grant);
        const ids = students.map(({ id }) => id);
        rowsFromGradebook(book, students, gradeRows(book, copies, ids, now));
      }),
    );
  figure('gradebook.50x40', quantile(times.slice(10), 0.95), 'ms');
}

/** A board of 50 × 40 open in 60 streams while 400 write: the server's time for a change, against reading the board. */
export async function newsBoard(
  app: App,
  school: TestSchool,
  page: Node,
  write: (copy: string, student: string) => Promise<unknown>,
): Promise<void> {
  const [klass = ''] = await makeClasses(app, school, 1, 50);
  await makeYear(app, school, page, [klass], 40, 40);
  const leave = Array.from({ length: 60 }, (_, n) =>
    app.news.add({
      person: `reader ${n}`,
      session: '',
      places: new Set([klass]),
      studentOf: new Set(),
      hear: () => undefined,
      resync: () => undefined,
      close: () => undefined,
    }),
  );
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('class_id', '=', klass)
    .where('kind', '=', 'copy')
    .where('with_teacher', '=', false)
    .limit(400)
    .execute();
  // What passes on is timed where it happens: the listeners of this process.
  const hub = app.news as unknown as { spread: (all: readonly unknown[]) => void };
  const spread = hub.spread.bind(hub);
  let [time, changes] = [0, 0];
  hub.spread = (all) => {
    const began = performance.now();
    spread(all);
    time += performance.now() - began;
    changes += all.length;
  };
  for (let round = 0; round < 5; round++)
    await Promise.all(copies.map(({ id, student_id }) => write(id, student_id ?? '')));
  await new Promise((resolve) => setTimeout(resolve, 500));
  for (const one of leave) one();
  const readings: number[] = [];
  for (let i = 0; i < 9; i++)
    readings.push(
      await timed(async () => {
        JSON.stringify(await readBoard(app.db, klass, school.teacher));
      }),
    );
  if (changes < 1000) throw new Error(`${changes} changes were heard`);
  figure('news.board', time / changes, 'ms', quantile(readings, 0.5));
}

/** All bytes of a first visit, as they travel. */
export async function viewBytes(url: string): Promise<void> {
  const server = await Server.start(url);
  const browser = await launch();
  const visit = async (who: string, link: RegExp, seen: string) => {
    const { context, page } = await openBrowser(browser, server.origin);
    await signIn(page, who, PASSWORD);
    const to = await page.getByRole('link', { name: link }).first().getAttribute('href');
    const cookies = await context.cookies();
    await context.close();
    const fresh = await openBrowser(browser, server.origin);
    await fresh.context.addCookies(cookies);
    const session = await fresh.context.newCDPSession(fresh.page);
    await session.send('Network.enable');
    const types = new Map<string, string>();
    const bytes = new Map<string, number>();
    session.on('Network.responseReceived', ({ requestId, type }) => types.set(requestId, type));
    session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      const type = types.get(requestId) ?? 'Other';
      bytes.set(type, (bytes.get(type) ?? 0) + encodedDataLength);
    });
    await fresh.page.goto(to ?? '/');
    await fresh.page.getByText(seen).first().waitFor();
    await fresh.page.waitForTimeout(1500);
    await fresh.context.close();
    return { all: [...bytes.values()].reduce((sum, one) => sum + one, 0), bytes };
  };
  const copy = await visit('ada.fennick', /Rule of twelfths/, 'parts done');
  figure('view.copy.bytes', copy.all / 1000, 'kB');
  figure('view.copy.script', (copy.bytes.get('Script') ?? 0) / 1000, 'kB');
  figure('view.copy.fonts', (copy.bytes.get('Font') ?? 0) / 1000, 'kB');
  const board = await visit('tamsin.orrey', /^8C/, 'Abernathy');
  figure('view.board.bytes', board.all / 1000, 'kB');
  await browser.close();
  await server.stop();
}
