import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'kysely';
import { beforeAll, describe, expect, it } from 'vitest';
import { readLocalTime } from '../../src/lib/core/calendar/local-time';
import { beginBuild, buildClass, readBuild } from '../../src/lib/server/class/build-class';
import { readSource } from '../../src/lib/server/class/build-source';
import { beginClasses } from '../../src/lib/server/class/begin-classes';
import { copyPages } from '../../src/lib/server/course/copy-pages';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { readNotes } from '../../src/lib/server/course/notes';
import { readListedPages, readUnits, type Holder } from '../../src/lib/server/course/units';
import { handOutFrom, readDrafts } from '../../src/lib/server/handout/drafts';
import { readGradeView } from '../../src/lib/server/grades/gradebook';
import { readMailbox } from '../../src/lib/server/message/messages';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { useApp } from '../support/app';
import { bring, closeAs, makeArchive, unpack } from '../support/archives';
import { setStaffAs } from '../support/deeds';
import { fullClass, type FullClass } from '../support/full-class';
import { inClass, ofTeacher } from '../support/grants';
import { addPerson, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let full: FullClass;
let other: TestSchool;
/** The class of the archive, opened in another school. */
let opened: string;

beforeAll(async () => {
  const { app } = test;
  // What is found of pages is written when a test asks for it, not at any later time.
  await app.indexer.stop();
  full = await fullClass(app);
  const { db } = app;
  const { school, task } = full;
  // The end of the 3rd lesson of the term: Tuesday 15 September.
  await db
    .updateTable('assignment_class')
    .set({ due_at: new Date(readLocalTime('2026-09-15T09:50', 'Europe/Dublin') ?? NaN) })
    .where('assignment_id', '=', task.assignment)
    .execute();
  const worktable = (await readListedPages(db, { class: school.class })).find(
    ({ area }) => area === 'worktable',
  );
  await app.pages.append(
    worktable?.id ?? '',
    { id: school.students[0] ?? '', owner: false },
    {
      base: 0,
      client: 'together-client',
      first: 1,
      lost: [],
      steps: [
        {
          stepType: 'replace',
          from: PLACES.short,
          to: PLACES.short,
          slice: { content: [{ type: 'text', text: 'WRITTEN TOGETHER' }] },
        },
      ],
    },
  );
  await closeAs(app, school.teacher, school.class);
  const zip = await makeArchive(app, {
    class: school.class,
    school: school.id,
    by: school.teacher,
  });
  other = await makeSchool(app, 0);
  opened = (await bring(app, other.teacher, zip)).class_id ?? '';
});

/** Closed classes of a course, in a term of next year with lessons on Wednesdays. */
async function nextClasses(
  school: { id: number; teacher: string },
  course: string,
  names: string[],
): Promise<string[]> {
  const { db } = test.app;
  const term =
    (await db
      .selectFrom('term')
      .select('id')
      .where('school_id', '=', school.id)
      .where('starts', '=', '2027-09-01')
      .executeTakeFirst()) ??
    (await db
      .insertInto('term')
      .values({ school_id: school.id, name: 'Next', starts: '2027-09-01', ends: '2027-10-15' })
      .returning('id')
      .executeTakeFirstOrThrow());
  const grant = await ofTeacher(db, school.teacher);
  const ids = await beginClasses(db, grant, { names, course, term: term.id });
  for (const class_id of ids)
    await db
      .insertInto('lesson_slot')
      .values({ school_id: school.id, class_id, weekday: 3, starts: '11:00', ends: '11:50' })
      .execute();
  return ids;
}

/** Everything of a class, with all of its assignments. */
async function everything(source: Holder, into: string, by: string) {
  const grant = await inClass(test.app.db, into, by);
  const { units, assignments } = await readSource(test.app, grant.person, source, grant.thing);
  return {
    source,
    units: units.map(({ id }) => ({ id, readings: 'shelf', originals: 'cupboard' }) as const),
    assignments: assignments.map(({ id }) => id),
    rules: true,
    sections: [],
  };
}

async function build(source: Holder, by: string, [first = '', ...more]: string[]) {
  const { app } = test;
  const builds = await beginBuild(
    app,
    [
      await inClass(app.db, first, by),
      ...(await Promise.all(more.map((id) => inClass(app.db, id, by)))),
    ],
    await everything(source, first, by),
  );
  for (const id of builds) await buildClass(app, id);
}

/** All tables that hold what belongs to schools. */
const tables = async () =>
  (
    await sql<{ name: string }>`
      select table_name as name from information_schema.tables
      where table_schema = 'public' and table_type = 'BASE TABLE'`.execute(test.app.db)
  ).rows.map(({ name }) => name);

/**
 * Every row of a school in every table as text: only those that were written since a moment of the database, if one is given.
 * What is indexed of another school meanwhile says nothing of this one.
 */
async function rowsSince(school: number, moment: string | null): Promise<string> {
  const all: string[] = [];
  for (const table of await tables()) {
    const { rows } = await sql<{ row: string }>`
      select to_jsonb(one)::text as row from ${sql.table(table)} one
      where coalesce((to_jsonb(one) ->> 'school_id')::int, ${school}) = ${school}
        ${moment === null ? sql`` : sql`and xmin::text::bigint >= ${moment}::bigint`}`.execute(
      test.app.db,
    );
    all.push(...rows.map(({ row }) => `${table} ${row}`));
  }
  return all.join('\n');
}

/** A moment after which rows are told apart from those before. */
const thisMoment = async () =>
  (
    await sql<{ at: string }>`select pg_snapshot_xmax(pg_current_snapshot())::text as at`.execute(
      test.app.db,
    )
  ).rows[0]?.at ?? '';

/** Everything by which a class and its students could be known. */
async function traces(klass: string): Promise<string[]> {
  const { db } = test.app;
  const people = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'email', 'sign_in_name'])
    .where('class_id', '=', klass)
    .execute();
  const pages = await db
    .selectFrom('page')
    .select('id')
    .where('class_id', '=', klass)
    .where('kind', 'in', ['copy', 'own page'])
    .execute();
  const threads = await db
    .selectFrom('thread')
    .innerJoin('page', 'page.id', 'thread.page_id')
    .select('thread.id')
    .where('class_id', '=', klass)
    .execute();
  const groupings = await db
    .selectFrom('grouping')
    .select('id')
    .where('class_id', '=', klass)
    .execute();
  return [
    klass,
    ...people.flatMap(({ id, family, email, sign_in_name }) => [id, family, email, sign_in_name]),
    ...people.map(({ given, family }) => `${given} ${family}`),
    ...[...pages, ...threads, ...groupings].map(({ id }) => id),
    ...['a rock awash', 'Twelve to the sixth', 'a wreck', 'from one', 'WRITTEN TOGETHER'],
    ...['Please look', 'Nearly.', 'KEPT-BACK', 'PRIVATE-NOTE', 'Which <one>?'],
  ].filter((trace) => trace !== '');
}
/** As it stands in JSON. */
const inJson = (text: string) => JSON.stringify(text).slice(1, -1);

describe('the next class', () => {
  it('leaves the class that it comes from as it was: its archive is the same', async () => {
    const { app } = test;
    const { school } = full;
    const manifest = async () => {
      const of = { class: school.class, school: school.id, by: school.teacher };
      return readFileSync(
        join(await unpack(await makeArchive(app, of)), 'manifest-sha256.txt'),
        'utf8',
      );
    };
    const before = await manifest();
    const [klass = ''] = await nextClasses(school, school.course, ['8G']);
    await build({ class: school.class }, school.teacher, [klass]);
    expect(await manifest()).toBe(before);
  });

  it.each(['the archived class', 'the archive, opened in another school'])(
    'has no trace of a student: from %s',
    async (from) => {
      const isHere = from === 'the archived class';
      const { school } = isHere ? full : { school: other };
      const source = isHere ? full.school.class : opened;
      const known = (await traces(source)).map(inJson);
      // Each of them is there to be found, so that what follows can fail.
      const before = await rowsSince(school.id, null);
      expect(known.filter((trace) => !before.includes(trace))).toEqual([]);
      expect(known.length).toBeGreaterThan(30);

      const [klass = ''] = await nextClasses(school, school.course, ['8C']);
      // Found by whoever looks for it: what is indexed counts, too.
      await test.app.indexer.catchUp();
      const moment = await thisMoment();
      await build({ class: source }, school.teacher, [klass]);
      await test.app.indexer.catchUp();
      const after = await rowsSince(school.id, moment);
      expect(after).toContain('Reading: “lights”');
      expect(after).toContain('Boats');
      expect(known.filter((trace) => after.includes(trace))).toEqual([]);
    },
  );

  it('takes assignments as drafts at the same lesson, pages, rubrics and rules', async () => {
    const { app } = test;
    const [klass = ''] = await nextClasses(other, other.course, ['8D']);
    await build({ class: opened }, other.teacher, [klass]);
    const drafts = await readDrafts(app.db, [klass]);
    expect(drafts.map(({ spec: { title } }) => title).sort()).toEqual([
      'A test',
      'Boats',
      'Done or not',
      'Each says done',
      'For all',
      'Scored by many',
      'Task: 50% "really"?',
      'To read',
    ]);
    const spec = drafts.find(({ spec: { title } }) => title.startsWith('Task'))?.spec;
    // Wednesday 15 September is the 3rd lesson of the new term.
    expect(spec).toMatchObject({
      due: { kind: 'at', local: '2027-09-15T11:50' },
      points: '10.00',
      only: null,
      without: [],
    });
    const pages = await readListedPages(app.db, { class: klass });
    // What was noted for the next time is in view, about what it is about here.
    const notes = await readNotes(app.db, { class: klass }, other.teacher);
    expect(notes.map(({ text }) => text).sort()).toEqual([
      'PRIVATE-NOTE page',
      'PRIVATE-NOTE shorter',
    ]);
    const noted = notes.map(({ about }) => about);
    expect(noted).toContain(spec?.originals[0]?.page);
    const others = await readNotes(app.db, { class: klass }, other.marker);
    expect(others.map(({ text }) => text)).toEqual(['PRIVATE-NOTE shorter']);
    const original = pages.find(({ id }) => id === spec?.originals[0]?.page);
    expect(original).toMatchObject({ area: 'cupboard', kind: 'class page' });
    const rubric = await app.db
      .selectFrom('rubric')
      .selectAll()
      .where('id', '=', spec?.rubric ?? '')
      .executeTakeFirstOrThrow();
    expect(rubric).toMatchObject({ course_id: other.course, title: 'Method?', version: 0 });
    expect((await readGradeView(app.db, klass)).rules).toMatchObject({
      total: 'weights',
      categories: [{ name: 'tasks', weight: '40', drop: 1 }],
    });
    // Pages begin anew, with pictures and keys, and nobody is their author.
    const row = await app.db
      .selectFrom('page')
      .innerJoin('snapshot', 'snapshot.page_id', 'page.id')
      .select(['page.version', 'snapshot.authorship'])
      .where('page.id', '=', original?.id ?? '')
      .execute();
    expect(row).toEqual([{ version: 0, authorship: [] }]);
    const keys = await app.db
      .selectFrom('answer_key')
      .select('body')
      .where('page_id', '=', original?.id ?? '')
      .execute();
    expect(JSON.stringify(keys)).toContain('SECRET-KEY');

    const student = await addPerson(app, other, 'newcomer', 'student');
    await app.db
      .insertInto('enrolment')
      .values({ school_id: other.id, class_id: klass, person_id: student, joined_at: new Date() })
      .execute();
    for (const draft of drafts) {
      const grant = await grantInClass(app.db, 'hand out', other.teacher, klass);
      await handOutFrom(app, grant, {
        id: draft.id,
        spec: draft.spec,
        at: new Date(),
        again: true,
      });
    }
    expect(await readDrafts(app.db, [klass])).toEqual([]);
    const copies = await app.db
      .selectFrom('page')
      .select(['title', 'version'])
      .where('class_id', '=', klass)
      .where('student_id', '=', student)
      .orderBy('title')
      .execute();
    // Whoever is in no group has a copy of their own.
    expect(copies).toEqual([
      { title: 'A test', version: 0 },
      { title: 'Boats', version: 0 },
      { title: 'Done or not', version: 0 },
      { title: 'Scored by many', version: 0 },
      { title: 'Task: 50% "really"?', version: 0 },
    ]);
  });

  it('uses pages and rubrics of its own course where they lie', async () => {
    const { app } = test;
    const { school, task } = full;
    const [klass = ''] = await nextClasses(school, school.course, ['8E']);
    const rubrics = () =>
      app.db.selectFrom('rubric').select('id').where('course_id', '=', school.course).execute();
    const before = await rubrics();
    // A copy of it that lies in the class already, and one in a student's workbook, are not taken for it.
    await inTransaction(app.db, (tx) =>
      copyPages(app.memory, tx, {
        school: school.id,
        pages: [task.original],
        unit: null,
        at: new Date(),
        in: { kind: 'class page', class: klass, area: 'shelf' },
      }),
    );
    await build({ class: school.class }, school.teacher, [klass]);
    const drafts = await readDrafts(app.db, [klass]);
    const spec = drafts.find(({ spec: { title } }) => title.startsWith('Task'))?.spec;
    expect(spec?.classes[0]?.unit).toBe(
      (await readUnits(app.db, { class: klass })).find(({ title }) => title.startsWith('Tide'))?.id,
    );
    expect(spec?.originals).toEqual([{ page: task.original, delivery: 'one each' }]);
    expect(before.map(({ id }) => id)).toContain(spec?.rubric);
    expect(await rubrics()).toEqual(before);
  });

  it('is made for three parallel classes at once, with one copy of a rubric in their course', async () => {
    const { app } = test;
    const { id: course } = await app.db
      .insertInto('course')
      .values({ school_id: other.id, title: 'Fresh' })
      .returning('id')
      .executeTakeFirstOrThrow();
    await app.db
      .insertInto('course_staff')
      .values({ course_id: course, school_id: other.id, person_id: other.teacher, may: 'own' })
      .execute();
    const classes = await nextClasses(other, course, ['9A', '9B', '9C']);
    await build({ class: opened }, other.teacher, classes);
    const rubrics = await app.db
      .selectFrom('rubric')
      .select('id')
      .where('course_id', '=', course)
      .execute();
    expect(rubrics).toHaveLength(1);
    const drafts = await readDrafts(app.db, classes);
    expect(drafts).toHaveLength(24);
    for (const { spec, class_id } of drafts)
      expect(spec.classes.map((one) => one.class)).toEqual([class_id]);
    const [message] = await readMailbox(app.db, other.teacher);
    expect(message?.text).toContain('8 assignments are drafts.');
  });

  it('is begun for all of them or for none', async () => {
    const { app } = test;
    const [one = '', two = ''] = await nextClasses(other, other.course, ['9D', '9E']);
    const spec = await everything({ class: opened }, one, other.teacher);
    await beginBuild(app, [await inClass(app.db, two)], { ...spec, assignments: [] });
    const both = [await inClass(app.db, one), await inClass(app.db, two)] as const;
    const refused = beginBuild(app, both, spec);
    await expect(refused).rejects.toMatchObject({ status: 409, message: /9E is being built/ });
    const begun = await app.db
      .selectFrom('class_build')
      .select('id')
      .where('class_id', '=', one)
      .execute();
    expect(begun).toEqual([]);
    const elsewhere = await inClass(app.db, other.otherClass);
    await expect(
      beginBuild(app, [await inClass(app.db, one), elsewhere], spec),
    ).rejects.toMatchObject({ status: 400 });
  });

  it('comes without the rubric for whoever only uses the course', async () => {
    const { app } = test;
    await app.db
      .updateTable('course_staff')
      .set({ may: 'use' })
      .where('course_id', '=', other.course)
      .execute();
    await app.db.deleteFrom('hand_out').where('school_id', '=', other.id).execute();
    const [klass = ''] = await nextClasses(other, other.course, ['9F']);
    const grant = await inClass(app.db, klass);
    const source = await readSource(app, grant.person, { class: opened }, grant.thing);
    expect(source.assignments.filter(({ losesRubric }) => losesRubric)).toHaveLength(2);
    await build({ class: opened }, other.teacher, [klass]);
    const drafts = await readDrafts(app.db, [klass]);
    expect(drafts.map(({ spec }) => spec.rubric)).toEqual(Array(8).fill(null));
  });

  it('is not built any more for whoever left its staff meanwhile', async () => {
    const { app } = test;
    const { school } = full;
    const [klass = ''] = await nextClasses(school, school.course, ['8F']);
    const spec = await everything({ class: school.class }, klass, school.teacher);
    // The test is the job.
    const noJobs = { put: async () => undefined } as never;
    const [begun = ''] = await beginBuild(
      { db: app.db, jobs: noJobs },
      [await inClass(app.db, klass)],
      spec,
    );
    await setStaffAs(app, school.teacher, klass, school.stranger, 'lead');
    await setStaffAs(app, school.stranger, klass, school.teacher, null);
    await expect(buildClass(app, begun)).rejects.toMatchObject({ status: 404 });
    expect(await readListedPages(app.db, { class: klass })).toEqual([]);
    expect(await readDrafts(app.db, [klass])).toEqual([]);
    expect((await readBuild(app.db, klass))?.fault).toContain('not yours');
  });

  it('is built from what its builder may carry over', async () => {
    const { app } = test;
    const grant = await inClass(app.db, full.school.otherClass, full.school.stranger);
    await expect(
      readSource(app, grant.person, { class: full.school.class }, grant.thing),
    ).rejects.toMatchObject({ status: 404 });
  });
});
