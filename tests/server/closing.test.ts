import { sql } from 'kysely';
import { ReplaceStep } from 'prosemirror-transform';
import { Fragment, Slice } from 'prosemirror-model';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { archiveClass, openAgain } from '../../src/lib/server/closing/archive-class';
import { storeUnits } from '../../src/lib/server/closing/store-units';
import { handBack } from '../../src/lib/server/copy/marking';
import { addUnit } from '../../src/lib/server/course/units';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { handOutWhenDue, saveDraft } from '../../src/lib/server/handout/drafts';
import { notifyHandedOut } from '../../src/lib/server/handout/notify-students';
import { answerRequest } from '../../src/lib/server/roster/join-requests';
import { useApp } from '../support/app';
import { handOutAs } from '../support/deeds';
import { inClass, newPage, toMark } from '../support/grants';
import {
  addPerson,
  assign,
  makeSchool,
  PLACES,
  questionPage,
  type Assigned,
  type TestSchool,
} from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let server: Server;
let school: TestSchool;
let work: Assigned;

beforeAll(async () => {
  server = await Server.start(test.url);
});
afterAll(() => server.stop());
beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  work = await assign(test.app, school, { title: 'Tide table' });
});
const visit = async (name: string) => {
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`${name}${school.id}`);
  return visitor;
};
const close = async (until: string | null = '2999-01-31') =>
  archiveClass(
    test.app,
    await grantInClass(test.app.db, 'close the term', school.teacher, school.class),
    until,
  );
const step = (text: string) =>
  new ReplaceStep(
    PLACES.short,
    PLACES.short,
    new Slice(Fragment.from(schema.text(text)), 0, 0),
  ).toJSON();
const write = (who: Visitor, page: string, client: string) =>
  who.send(`/pages/${page}/steps`, { base: 0, client, first: 1, steps: [step('word')] });
const stepsOf = async (page: string) =>
  (await test.app.db.selectFrom('step').select('version').where('page_id', '=', page).execute())
    .length;
const inPath = (path: string) => `/classes/${school.class}${path}`;
/** Everything that a view says to somebody, as one text. */
const told = async (who: Visitor, path: string) => (await who.fetch(`${path}/__data.json`)).text();

describe('an archived class', () => {
  it('takes nothing that was on its way, and says so', async () => {
    const [page = ''] = work.copies;
    const student = await visit('student1');
    expect((await write(student, page, 'client-before')).status).toBe(200);
    // Somebody holds the page; the closing waits for it, and behind the closing a request that was let in before.
    let release: () => void = () => undefined;
    const held = new Promise<void>((done) => (release = done));
    const holding = inTransaction(test.app.db, async (tx) => {
      await tx.selectFrom('page').select('id').where('id', '=', page).forUpdate().execute();
      await held;
    });
    const waiting = (many: number) =>
      expect
        .poll(async () => {
          const { rows } = await sql<{ n: number }>`select count(*)::int as n
              from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`.execute(
            test.app.db,
          );
          return rows[0]?.n;
        })
        .toBe(many);
    let answer: Response | null;
    try {
      const closing = close();
      await waiting(1);
      const sent = write(student, page, 'client-after');
      await waiting(2);
      release();
      await closing;
      answer = await sent;
    } finally {
      release();
      await holding;
    }
    expect(answer?.status).toBe(403);
    expect((await answer?.json())?.message).toContain('This class is archived');
    expect(await stepsOf(page)).toBe(1);
  });

  it('is archived once, of twenty who press at once', async () => {
    const teacher = await visit('teacher');
    const answers = await Promise.all(
      Array.from({ length: 20 }, async () => {
        const answer = await teacher.submit(inPath('/close?/archive'), { until: '2999-01-31' });
        return (await answer.json()).type;
      }),
    );
    expect(answers.filter((type) => type === 'redirect')).toHaveLength(1);
    const events = await test.app.db
      .selectFrom('class_event')
      .select('kind')
      .where('class_id', '=', school.class)
      .execute();
    expect(events).toEqual([{ kind: 'archived' }]);
  });

  it('lets students read their own work until the day that was set, and no longer', async () => {
    const [page = '', other = ''] = work.copies;
    const student = await visit('student1');
    const reads = async (path: string) => (await student.fetch(path)).status;
    await write(student, page, 'client-of-one');
    await close();
    expect(await told(student, '/work')).toContain('2999-01-31');
    expect(await reads(`/pages/${page}`)).toBe(200);
    expect(await reads(`/pages/${other}`)).toBe(404);
    expect(await told(student, inPath('/workbook'))).toContain('Tide table');
    expect(await (await student.fetch('/find?q=Tide')).text()).toContain(page);
    // Not the last day: it counts whole.
    const setLast = (day: string) =>
      test.app.db
        .updateTable('class')
        .set({ read_until: day })
        .where('id', '=', school.class)
        .execute();
    const today = new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/Dublin' }).format();
    await setLast(today);
    expect(await reads(`/pages/${page}`)).toBe(200);
    await setLast('2026-01-01');
    for (const path of [
      `/pages/${page}`,
      `/pages/${page}/history`,
      inPath('/workbook/__data.json'),
    ])
      expect([path, (await told(student, path)).includes('Tide table')]).toEqual([path, false]);
    expect(await reads(`/pages/${page}`)).toBe(404);
    expect(await told(student, '/work')).not.toContain(school.class);
    expect(await (await student.fetch('/find?q=Tide')).text()).not.toContain(page);
  });

  it('gets nothing by itself any more: no hand-out, no student, no opening, no reminder', async () => {
    const { app } = test;
    const hand = crypto.randomUUID();
    const soon = new Date(Date.now() + 60_000);
    await saveDraft(
      app,
      await grantInClass(app.db, 'hand out', school.teacher, school.class),
      {
        id: hand,
        spec: plainSpec(work.original, school.class, { title: 'Planned' }),
        goesOut: soon,
        version: 0,
      },
      new Date(),
    );
    const joiner = await addPerson(app, school, 'joiner', 'student');
    await app.db
      .insertInto('join_request')
      .values({
        class_id: school.class,
        school_id: school.id,
        person_id: joiner,
        asked_by: school.teacher,
      })
      .execute();
    await close();
    await handOutWhenDue(app, hand, new Date(soon.getTime() + 1));
    const assignments = await app.db
      .selectFrom('assignment_class')
      .select('assignment_id')
      .where('class_id', '=', school.class)
      .execute();
    expect(assignments.map(({ assignment_id }) => assignment_id)).toEqual([work.assignment]);
    const draft = await app.db
      .selectFrom('hand_out')
      .select(['goes_out_at', 'away_at', 'fault'])
      .where('id', '=', hand)
      .executeTakeFirstOrThrow();
    expect(draft).toEqual({ goes_out_at: null, away_at: null, fault: null });
    const by = await app.db
      .selectFrom('person')
      .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
      .where('id', '=', joiner)
      .executeTakeFirstOrThrow();
    await expect(
      answerRequest(app, by, { class: school.class, person: joiner }, true),
    ).rejects.toThrow('not asked any more');
    // A hand-out that was checked before is refused in its transaction.
    await expect(
      handOutAs(app, {
        id: crypto.randomUUID(),
        by: school.teacher,
        at: new Date(),
        spec: plainSpec(work.original, school.class, { title: 'Late' }),
      }),
    ).rejects.toThrow('do not hand out');
  });

  it('keeps its place in an assignment of two classes, which nobody changes then', async () => {
    const { app } = test;
    await app.db
      .insertInto('class_staff')
      .values({
        school_id: school.id,
        class_id: school.otherClass,
        person_id: school.teacher,
        kind: 'lead',
      })
      .execute();
    const both = crypto.randomUUID();
    await handOutAs(app, {
      id: both,
      by: school.teacher,
      at: new Date(),
      spec: plainSpec(work.original, school.class, {
        title: 'For two',
        classes: [school.class, school.otherClass].map((id) => ({
          class: id,
          grouping: null,
          unit: null,
          due: null,
        })),
      }),
    });
    await close();
    const teacher = await visit('teacher');
    const there = `/classes/${school.otherClass}/assignments/${both}`;
    expect((await teacher.fetch(`${there}/change/__data.json`)).status).toBe(200);
    expect(await told(teacher, `${there}/change`)).toContain('This class is archived');
    // What concerns the other class alone goes on.
    const answer = await teacher.submit(`${there}?/withdraw`, { withdrawn: 'true' });
    expect((await answer.json()).type).toBe('success');
  });

  it('is opened again as it was', async () => {
    const [page = ''] = work.copies;
    await close();
    const student = await visit('student1');
    expect((await write(student, page, 'client-closed')).status).toBe(403);
    await openAgain(
      test.app,
      await grantInClass(test.app.db, 'keep the archive', school.teacher, school.class),
    );
    expect((await write(student, page, 'client-open')).status).toBe(200);
    expect(await told(student, '/work')).toContain('Tide table');
  });

  it('is told to everybody in it but who closed it', async () => {
    await close();
    const rows = await test.app.db
      .selectFrom('message')
      .select('person_id')
      .where('fact', '@>', JSON.stringify({ kind: 'class archived' }) as never)
      .where('school_id', '=', school.id)
      .execute();
    expect(rows.map(({ person_id }) => person_id).sort()).toEqual(
      [...school.students, school.marker].sort(),
    );
  });
});

describe('a unit in the cupboard', () => {
  it('is out of its students’ sight with all that lies in it, and what was handed back counts on', async () => {
    const { app } = test;
    const grant = await inClass(app.db, school.class);
    const unit = await addUnit(app.db, grant, 'Old lights');
    const shelf = await newPage(
      app.db,
      {
        title: 'Lamp reading',
        at: new Date(),
        unit,
        in: { kind: 'class page', class: school.class, area: 'shelf' },
      },
      questionPage(),
    );
    await app.db
      .updateTable('assignment_class')
      .set({ unit_id: unit, due_at: new Date(Date.now() + 86_400_000) })
      .where('assignment_id', '=', work.assignment)
      .execute();
    const [page = ''] = work.copies;
    await handBack(app, await toMark(app, { page, person: school.teacher }), {
      given: { points: '7' },
    });
    const student = await visit('student1');
    const teacher = await visit('teacher');
    const VIEWS = [inPath('/plan'), '/work', inPath('/workbook'), '/calendar'];
    const seen = async () =>
      Promise.all([
        ...VIEWS.map(async (path) =>
          /Old lights|Lamp reading|Tide table/.test(await told(student, path)),
        ),
        ...[`/pages/${page}`, `/pages/${shelf}`, `/pages/${page}/history`].map(
          async (path) => (await student.fetch(path)).status === 200,
        ),
        ...['Tide', 'Lamp'].map(async (word) => {
          const found = await (await student.fetch(`/find?q=${word}`)).text();
          return found.includes(page) || found.includes(shelf);
        }),
      ]);
    await expect.poll(async () => (await seen()).every(Boolean)).toBe(true);
    await storeUnits(app, grant, [unit], true);
    expect((await seen()).filter(Boolean)).toEqual([]);
    expect(await told(student, inPath('/points'))).toContain('Tide table');
    expect(await told(teacher, inPath('/plan'))).toContain('Lamp reading');
    expect((await teacher.fetch(`/pages/${page}`)).status).toBe(200);
    await storeUnits(app, grant, [unit], false);
    expect((await seen()).every(Boolean)).toBe(true);
  });

  it('tells of what was handed out in it once it comes out', async () => {
    const { app } = test;
    const grant = await inClass(app.db, school.class);
    const unit = await addUnit(app.db, grant, 'Ahead');
    await storeUnits(app, grant, [unit], true);
    await app.db
      .updateTable('assignment_class')
      .set({ unit_id: unit })
      .where('assignment_id', '=', work.assignment)
      .execute();
    const notified = async () =>
      (
        await app.db
          .selectFrom('message')
          .select('person_id')
          .where('fact', '@>', JSON.stringify({ assignment: work.assignment }) as never)
          .execute()
      ).length;
    await app.db
      .deleteFrom('message')
      .where('fact', '@>', JSON.stringify({ assignment: work.assignment }) as never)
      .execute();
    await notifyHandedOut(app, work.assignment);
    expect(await notified()).toBe(0);
    await storeUnits(app, grant, [unit], false);
    await expect.poll(notified).toBe(2);
  });
});
