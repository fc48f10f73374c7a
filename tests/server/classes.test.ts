import { beforeAll, describe, expect, it } from 'vitest';
import { findClass } from '../../src/lib/server/access/relation';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { removeClass } from '../../src/lib/server/class/remove-class';
import { beginClasses } from '../../src/lib/server/class/begin-classes';
import { beginBuild, buildClass, readBuild } from '../../src/lib/server/class/build-class';
import { readSource } from '../../src/lib/server/class/build-source';
import { readMailbox } from '../../src/lib/server/message/messages';
import {
  closeClass,
  openClass,
  openWhenDue,
  setOpening,
} from '../../src/lib/server/class/open-class';
import { copyToCourse } from '../../src/lib/server/class/page-to-course';
import { findWelcome, readPlan, readStudentPlan } from '../../src/lib/server/class/plan';
import { addSlot } from '../../src/lib/server/class/set-up';
import { beginClassPage, putClassPageAway } from '../../src/lib/server/course/begin-page';
import { readKeys, writeKey } from '../../src/lib/server/course/answer-keys';
import { addUnit, readListedPages } from '../../src/lib/server/course/units';
import { setStaffAs, shareAs } from '../support/deeds';
import { useApp } from '../support/app';
import { assign, makeSchool, questionPage, type TestSchool } from '../support/school';
import { toKeep, inCourse, inClass, ofTeacher, newPage } from '../support/grants';

const test = useApp();
let school: TestSchool;
const units: string[] = [];
const at = new Date();

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  const { db } = test.app;
  for (const title of ['Tide', 'Lights']) {
    const unit = await addUnit(db, await inCourse(db, school.course), title);
    units.push(unit);
    for (let n = 0; n < 60; n++)
      await newPage(
        db,
        {
          at,
          title: `${title} ${n}`,
          unit,
          in: { kind: n % 2 === 0 ? 'reading' : 'original', course: school.course },
        },
        questionPage(),
      );
  }
});

const newClass = async (name: string) => {
  const term = await test.app.db
    .selectFrom('term')
    .select('id')
    .where('school_id', '=', school.id)
    .executeTakeFirstOrThrow();
  const lead = { id: school.teacher, school_id: school.id };
  const [id = ''] = await beginClasses(test.app.db, await ofTeacher(test.app.db, lead.id), {
    names: [name],
    course: school.course,
    term: term.id,
  });
  const found = await findClass(test.app.db, school.teacher, id);
  if (!found) throw new Error('no class');
  return found.thing;
};
const everything = (destination: 'shelf' | 'leave' = 'shelf') => ({
  units: units.map((id: string | null) => ({
    id,
    readings: destination,
    originals: 'cupboard' as const,
  })),
  assignments: [],
  rules: false,
  sections: [],
  source: { course: school.course },
});
const target = async () => {
  const found = await findClass(test.app.db, school.teacher, school.class);
  if (!found) throw new Error('no class');
  return found.thing;
};
const until = async (done: () => Promise<boolean>) => {
  while (!(await done())) await new Promise((resolve) => setTimeout(resolve, 50));
};
const enrol = (klass: string, person: string) =>
  test.app.db
    .insertInto('enrolment')
    .values({ school_id: school.id, class_id: klass, person_id: person, joined_at: at })
    .execute();

describe('a class that is built', () => {
  it('holds what was chosen and nothing else, with progress, and says when it is done', async () => {
    const klass = await newClass('8Z');
    const first = units[0] ?? '';
    await beginBuild(test.app, [await inClass(test.app.db, klass.id)], {
      ...everything(),
      units: [{ id: first, readings: 'worktable', originals: 'leave' }],
    });
    await until(async () => (await readBuild(test.app.db, klass.id))?.finished_at !== null);
    const plan = await readPlan(test.app.db, klass.id, school.teacher);
    expect(plan.units.map(({ title }) => title)).toEqual(['Tide']);
    expect(plan.pages.map(({ title }) => title)).toEqual(
      Array.from({ length: 30 }, (_, n) => `Tide ${n * 2}`),
    );
    expect(new Set(plan.pages.map(({ area }) => area))).toEqual(new Set(['worktable']));
    expect((await readMailbox(test.app.db, school.teacher))[0]).toMatchObject({
      subject: '8Z is built',
      text: '30 pages are in the class now.',
    });
  });

  it('has no page twice and none missing, however often the job is interrupted and begun again', async () => {
    const klass = await newClass('8Y');
    const [build = ''] = await beginBuild(
      test.app,
      [await inClass(test.app.db, klass.id)],
      everything(),
    );
    // The queue's own run, two more at once, and one after all is done.
    await Promise.all([buildClass(test.app, build), buildClass(test.app, build)]);
    await buildClass(test.app, build);
    const pages = await readListedPages(test.app.db, { class: klass.id });
    expect(new Set(pages.map(({ from }) => from)).size).toBe(120);
    expect(pages).toHaveLength(120);
    expect(await readBuild(test.app.db, klass.id)).toMatchObject({ done: 120, total: 120 });
  });

  it('is not built twice at once', async () => {
    const klass = await newClass('8X');
    const twice = await Promise.allSettled([
      beginBuild(test.app, [await inClass(test.app.db, klass.id)], everything()),
      beginBuild(test.app, [await inClass(test.app.db, klass.id)], everything()),
    ]);
    expect(twice.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await until(async () => (await readBuild(test.app.db, klass.id))?.finished_at !== null);
  });

  it('carries over from a class without a trace of its students, and keys come along', async () => {
    const was = await newClass('8W, last year');
    const page = await newPage(
      test.app.db,
      {
        at,
        title: 'Key',
        in: { kind: 'class page', class: was.id, area: 'cupboard' },
      },
      questionPage(),
    );
    const key = { kind: 'number', value: '4.4', tolerance: '0.1', unit: 'm' } as const;
    await writeKey(
      test.app.db,
      await toKeep(test.app, { page, person: school.teacher }),
      'number',
      key,
    );
    const klass = await newClass('8W');
    const spec = { ...everything(), source: { class: was.id } };
    spec.units = [{ id: null, readings: 'shelf', originals: 'cupboard' }];
    await beginBuild(test.app, [await inClass(test.app.db, klass.id)], spec);
    await until(async () => (await readBuild(test.app.db, klass.id))?.finished_at !== null);
    const [copy] = await readListedPages(test.app.db, { class: klass.id });
    expect(copy).toMatchObject({ title: 'Key', area: 'cupboard', from: page });
    expect(await readKeys(test.app.db, copy?.id ?? '')).toEqual({ number: key });
  });

  it('comes only from what its builder may use', async () => {
    await expect(
      readSource(
        test.app,
        (await ofTeacher(test.app.db, school.stranger)).person,
        {
          course: school.course,
        },
        await target(),
      ),
    ).rejects.toMatchObject({ status: 404 });
    await expect(
      readSource(
        test.app,
        (await ofTeacher(test.app.db, school.marker)).person,
        {
          class: school.class,
        },
        await target(),
      ),
    ).rejects.toMatchObject({ status: 403 });
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'use');
    const source = await readSource(
      test.app,
      (await ofTeacher(test.app.db, school.stranger)).person,
      { course: school.course },
      await target(),
    );
    expect(source.pages).toHaveLength(120);
  });
});

describe('a class that is closed', () => {
  it('shows its students nothing until it opens; then each is told once', async () => {
    const klass = await newClass('8V');
    const [student = ''] = school.students;
    await enrol(klass.id, student);
    const page = await newPage(test.app.db, {
      at,
      title: 'Shelf',
      in: { kind: 'class page', class: klass.id, area: 'shelf' },
    });
    const seen = async () => [
      (await findClass(test.app.db, student, klass.id))?.relation,
      (await test.app.findPage(student, page))?.relation,
    ];
    expect(await seen()).toEqual(['nobody', 'nobody']);
    await Promise.all([
      openClass(test.app, await inClass(test.app.db, klass.id), at),
      openClass(test.app, await inClass(test.app.db, klass.id), at),
    ]);
    expect(await seen()).toEqual(['student', 'reader']);
    const told = (await readMailbox(test.app.db, student)).map(({ subject }) => subject);
    expect(told).toEqual(['8V is open']);
    await closeClass(test.app, await inClass(test.app.db, klass.id));
    expect(await seen()).toEqual(['nobody', 'nobody']);
  });

  it('opens by itself at its time, and not when that was taken back', async () => {
    const klass = await newClass('8U');
    const soon = new Date(Date.now() + 1500);
    await expect(
      setOpening(test.app, await inClass(test.app.db, klass.id), at, new Date()),
    ).rejects.toMatchObject({
      status: 400,
    });
    await setOpening(test.app, await inClass(test.app.db, klass.id), soon, new Date());
    const opened = () =>
      test.app.db
        .selectFrom('class')
        .select('opened_at')
        .where('id', '=', klass.id)
        .executeTakeFirstOrThrow();
    expect((await opened()).opened_at).toBeNull();
    await until(async () => (await opened()).opened_at !== null);
    expect(Number((await opened()).opened_at)).toBeGreaterThanOrEqual(soon.getTime());

    const kept = await newClass('8T');
    await setOpening(
      test.app,
      await inClass(test.app.db, kept.id),
      new Date(Date.now() + 60_000),
      new Date(),
    );
    await setOpening(test.app, await inClass(test.app.db, kept.id), null, new Date());
    await openWhenDue(test.app, kept.id, new Date(Date.now() + 120_000));
    const row = await test.app.db
      .selectFrom('class')
      .select('opened_at')
      .where('id', '=', kept.id)
      .executeTakeFirst();
    expect(row?.opened_at).toBeNull();
  });
});

describe('a page of a class', () => {
  it('is read on the shelf, written together on the worktable, and unknown in the cupboard', async () => {
    const relation = async (area: 'shelf' | 'worktable' | 'cupboard', person: string) => {
      const page = await newPage(test.app.db, {
        at,
        title: area,
        in: { kind: 'class page', class: school.class, area },
      });
      return (await test.app.findPage(person, page))?.relation;
    };
    const [student = ''] = school.students;
    expect(await relation('shelf', student)).toBe('reader');
    expect(await relation('worktable', student)).toBe('co-writer');
    expect(await relation('cupboard', student)).toBe('nobody');
    expect(await relation('cupboard', school.marker)).toBe('user');
    expect(await relation('shelf', school.otherStudent)).toBe('nobody');
    const plan = await readStudentPlan(test.app.db, school.class, student);
    expect(plan.pages.map(({ area }) => area)).toEqual(['shelf', 'worktable', 'shelf']);
  });

  it('goes back to the course: a reading from the shelf, an original from elsewhere, in the unit its own came from', async () => {
    const { app } = test;
    const [tide = ''] = units;
    const { id: unit } = await app.db
      .insertInto('unit')
      .values({
        school_id: school.id,
        class_id: school.class,
        title: 'Tide',
        place: 0,
        from_id: tide,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const copied = async (area: 'shelf' | 'cupboard', at_unit: string | null) => {
      const page = await newPage(
        app.db,
        {
          at,
          title: `Back, ${area}`,
          unit: at_unit,
          in: { kind: 'class page', class: school.class, area },
        },
        questionPage(),
      );
      const said = await copyToCourse(app, await inClass(app.db, school.class), page);
      expect(said.title).toBe(`Back, ${area}`);
      return (await readListedPages(app.db, { course: school.course })).find(
        ({ from }) => from === page,
      );
    };
    expect(await copied('shelf', unit)).toMatchObject({ kind: 'reading', unit: tide });
    expect(await copied('cupboard', null)).toMatchObject({
      kind: 'original',
      unit: null,
      parts: 4,
    });
    // A co-teacher who has no part in the course.
    const theirs = await newPage(app.db, {
      at,
      title: 'Theirs',
      in: { kind: 'class page', class: school.otherClass, area: 'shelf' },
    });
    await expect(
      copyToCourse(app, await inClass(app.db, school.class), theirs),
    ).rejects.toMatchObject({ status: 404 });
  });

  it('that welcomes is removed and comes back, and is never one of two', async () => {
    const { db } = test.app;
    const grant = await inClass(db, school.class);
    const begin = () => beginClassPage(db, grant, { at, title: 'Welcome', area: 'welcome' });
    const first = await begin();
    await expect(begin()).rejects.toMatchObject({ status: 409 });
    await putClassPageAway(db, grant, first, true);
    expect(await findWelcome(db, school.class)).toBeUndefined();
    const begun = await Promise.allSettled(Array.from({ length: 20 }, begin));
    expect(begun.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await expect(putClassPageAway(db, grant, first, false)).rejects.toMatchObject({ status: 409 });
    const second = await findWelcome(db, school.class);
    await putClassPageAway(db, grant, second?.id ?? '', true);
    await putClassPageAway(db, grant, first, false);
    expect((await findWelcome(db, school.class))?.id).toBe(first);
  });

  it('stands in the student’s plan beside what was handed out to her alone', async () => {
    const { copies } = await assign(test.app, school, { title: 'Hers' });
    const [student = ''] = school.students;
    const plan = await readStudentPlan(test.app.db, school.class, student);
    expect(plan.assignments).toMatchObject([{ title: 'Hers', to: `/work/${copies[0]}` }]);
  });
});

describe('the set-up of a class', () => {
  it('always has a lead', async () => {
    const klass = await newClass('8S');
    await expect(
      setStaffAs(test.app, school.teacher, klass.id, school.teacher, null),
    ).rejects.toMatchObject({
      status: 409,
    });
    await setStaffAs(test.app, school.teacher, klass.id, school.stranger, 'lead');
    await setStaffAs(test.app, school.teacher, klass.id, school.teacher, 'marker');
    expect((await findClass(test.app.db, school.teacher, klass.id))?.relation).toBe('marker');
    await expect(
      setStaffAs(test.app, school.stranger, klass.id, school.students[0] ?? '', 'marker'),
    ).rejects.toMatchObject({ status: 404 });
  });

  it('has no two lessons at once', async () => {
    const klass = await newClass('8R');
    const slot = { weekday: 1, starts: '09:00', ends: '09:50' };
    await addSlot(test.app.db, await inClass(test.app.db, klass.id), slot);
    await addSlot(test.app.db, await inClass(test.app.db, klass.id), {
      weekday: 1,
      starts: '09:50',
      ends: '10:40',
    });
    for (const bad of [
      { ...slot, starts: '09:30', ends: '10:00' },
      { ...slot, starts: '11:00', ends: '10:00' },
    ])
      await expect(
        addSlot(test.app.db, await inClass(test.app.db, klass.id), bad),
      ).rejects.toBeDefined();
  });
});

describe('a new class', () => {
  it('asks when there is one of its name, and is removed while nothing is in it', async () => {
    const first = await newClass('8Q');
    await expect(newClass('8Q')).rejects.toMatchObject({ status: 409 });
    const remove = async (klass: string) =>
      removeClass(
        test.app,
        await grantInClass(test.app.db, 'close the term', school.teacher, klass),
      );
    await remove(first.id);
    expect(await findClass(test.app.db, school.teacher, first.id)).toBeNull();
    await newClass('8Q');
    await expect(remove(school.class)).rejects.toMatchObject({ status: 409 });
  });
});
