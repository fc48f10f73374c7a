import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { ZipFile } from 'yazl';
import { schema } from '../../src/lib/core/page/schema';
import {
  grantByRole,
  grantInClass,
  grantInCourse,
} from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { beginClasses } from '../../src/lib/server/class/begin-classes';
import { beginBuild, buildClass } from '../../src/lib/server/class/build-class';
import { beginPage } from '../../src/lib/server/course/begin-page';
import { addUnit } from '../../src/lib/server/course/units';
import { savePicture } from '../../src/lib/server/file/files';
import { find } from '../../src/lib/server/find/find';
import { readRosterFile } from '../../src/lib/server/roster/read-file';
import type { TestSchool } from '../../tests/support/school';
import { makeBarePage } from './bare-copies';
import { figure, quantile, timed } from './figure';

const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const PAGES = 500;

/** A class of 500 pages with pictures, against the same rows inserted with nothing around them. */
export async function build500(app: App, school: TestSchool, page: Node): Promise<void> {
  const by = { id: school.teacher, school_id: school.id };
  const file = await savePicture(app.db, PIXEL, by);
  const pictured = page.copy(page.content.addToEnd(schema.node('picture', { file })));
  const grant = await grantInCourse(app.db, 'write the course', by.id, school.course);
  const units: string[] = [];
  for (let u = 0; u < 10; u++) {
    const unit = await addUnit(app.db, grant, `Unit ${u}`);
    units.push(unit);
    for (let n = 0; n < PAGES / 10; n++) {
      const spec = { kind: 'reading', at: new Date(), title: `${u}.${n}`, unit } as const;
      await beginPage(app.db, grant, spec, pictured);
    }
  }
  const term = await app.db
    .selectFrom('term')
    .select('id')
    .where('school_id', '=', school.id)
    .executeTakeFirstOrThrow();
  const built: number[] = [];
  const bare: number[] = [];
  await makeBarePage(app.db);
  await sql`create table if not exists bare_snapshot (like snapshot including all)`.execute(app.db);
  for (let turn = 0; turn < 3; turn++) {
    const spec = { names: [`Built ${turn}`], course: school.course, term: term.id };
    const grant = await grantByRole(app.db, 'manage courses', by.id);
    const [id = ''] = await beginClasses(app.db, grant, spec);
    const keep = await grantInClass(app.db, 'manage the class', by.id, id);
    // Of the bare rows, the documents too: they are most of what is written.
    bare.push(
      await timed(async () => {
        await sql`insert into bare_page select (jsonb_populate_record(null::bare_page, to_jsonb(page)
            || jsonb_build_object('id', gen_random_uuid(), 'build_id', null))).*
          from page where unit_id = any(${units}::uuid[])`.execute(app.db);
        await sql`insert into bare_snapshot select gen_random_uuid(), snapshot.version, snapshot.school_id, at, doc, authorship, parts
          from snapshot join page on page.id = snapshot.page_id where unit_id = any(${units}::uuid[])`.execute(
          app.db,
        );
      }),
    );
    built.push(
      await timed(async () => {
        const [build = ''] = await beginBuild(app, [keep], {
          units: units.map((unit) => ({ id: unit, readings: 'shelf', originals: 'leave' })),
          assignments: [],
          rules: false,
          sections: [],
          source: { course: school.course },
        });
        await buildClass(app, build);
      }),
    );
    const { n } = await app.db
      .selectFrom('page')
      .select((eb) => eb.cast<number>(eb.fn.countAll(), 'integer').as('n'))
      .where('class_id', '=', id)
      .executeTakeFirstOrThrow();
    if (n !== PAGES) throw new Error(`${n} pages`);
  }
  figure('build.500', quantile(built, 0.5), 'ms', quantile(bare, 0.5));
}

/** A OneRoster package with 5,000 students in 200 classes, read and checked. */
export async function oneRoster5000(): Promise<void> {
  const archive = new ZipFile();
  const table = (head: string, rows: string[]) => Buffer.from(`${head}\n${rows.join('\n')}\n`);
  const users = Array.from(
    { length: 5000 },
    (_, i) => `u${i},,,true,Given${i},Family${i},u${i}@skerry.example`,
  );
  const classes = Array.from({ length: 200 }, (_, i) => `c${i},,,Class ${i}`);
  const enrolments = users.map((_, i) => `e${i},,,c${i % 200},s,u${i},student`);
  archive.addBuffer(
    table('sourcedId,status,dateLastModified,enabledUser,givenName,familyName,email', users),
    'users.csv',
  );
  archive.addBuffer(table('sourcedId,status,dateLastModified,title', classes), 'classes.csv');
  archive.addBuffer(
    table(
      'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role',
      enrolments,
    ),
    'enrollments.csv',
  );
  archive.end();
  const pieces: Buffer[] = [];
  for await (const piece of archive.outputStream) pieces.push(Buffer.from(piece));
  const bytes = Buffer.concat(pieces);
  const times: number[] = [];
  for (let turn = 0; turn < 5; turn++)
    times.push(
      await timed(async () => {
        const { entries } = await readRosterFile(bytes, { officeClass: 'c7' });
        if (entries.length !== 25) throw new Error(`${entries.length} students`);
      }),
    );
  figure('oneroster.5000', quantile(times, 0.5), 'ms');
}

const WORDS =
  'tide quay light harbour storm chart depth sand wave rope lamp beacon swell shore pilot anchor reef dune gale kelp'.split(
    ' ',
  );

/** 60 classes of 25 students, 40 assignments each: 60,000 copies, on each some 60 words that its student wrote. */
export async function findP95(app: App, school: TestSchool, original: string): Promise<void> {
  const { db } = app;
  const term = await db
    .selectFrom('term')
    .select('id')
    .where('school_id', '=', school.id)
    .executeTakeFirstOrThrow();
  await sql`with students as (
      select id, row_number() over () - 1 as n from person where school_id = ${school.id} and role = 'student' limit 1500),
    classes as (
      insert into class (school_id, course_id, term_id, name, opened_at)
      select ${school.id}, ${school.course}, ${term.id}, 'Large ' || n, now() from generate_series(0, 59) n
      returning id, substring(name from 7)::int as n),
    staff as (
      insert into class_staff (school_id, class_id, person_id, kind)
      select ${school.id}, id, case when n < 5 then ${school.teacher}::uuid else ${school.stranger}::uuid end, 'lead' from classes)
    insert into enrolment (school_id, class_id, person_id, joined_at)
    select ${school.id}, classes.id, students.id, now() from classes join students on students.n / 25 = classes.n`.execute(
    db,
  );
  for (let a = 0; a < 40; a++) {
    const id = randomUUID();
    await sql`insert into assignment (id, school_id, title, instructions, guarded, made_by)
      values (${id}, ${school.id}, ${`Task ${a}`}, '', true, ${school.teacher})`.execute(db);
    await sql`insert into assignment_original (assignment_id, school_id, page_id, version, delivery)
      values (${id}, ${school.id}, ${original}, 0, 'one each')`.execute(db);
    await sql`insert into assignment_class (assignment_id, school_id, class_id, handed_out_at)
      select ${id}, ${school.id}, id, now() from class where name like 'Large %'`.execute(db);
    await sql`with made as (
        insert into page (school_id, kind, title, source_id, source_version, for_id, delivery, assignment_id, class_id,
          student_id, guarded)
        select ${school.id}, 'copy', ${`Task ${a}`}, ${original}::uuid, 0, ${original}::uuid, 'one each', ${id}::uuid,
          class_id, person_id, true
        from enrolment join class on class.id = class_id where class.name like 'Large %'
        returning id, class_id, student_id),
      written as (select made.*, (
          select string_agg((${WORDS}::text[])[1 + floor(random() * 20)::int], ' ')
          from generate_series(1, 60) where made.id is not null) as body from made)
      insert into find_entry (kind, id, school_id, class_id, owner_id, title, body, words)
      select 'page', id::text, ${school.id}, class_id, student_id, ${`Task ${a}`}, body, to_tsvector('simple', body)
      from written`.execute(db);
  }
  await sql`insert into find_word select unnest(${WORDS}::text[]) on conflict do nothing`.execute(
    db,
  );
  await sql`analyze`.execute(db);
  const teacher = {
    id: school.teacher,
    school_id: school.id,
    role: 'teacher' as const,
    given: '',
    family: '',
    called: '',
  };
  const student = { ...teacher, id: school.students[0] ?? '', role: 'student' as const };
  const queries = [
    'harb',
    'tide quay',
    'storm lam',
    'harbuor',
    'lightt shoer',
    'student12',
    'kelp dune gale',
    'nothing of it',
    'Task 7',
    'anch',
  ];
  const times: number[] = [];
  for (let turn = 0; turn < 6; turn++)
    for (const query of queries)
      for (const person of [teacher, student])
        times.push(await timed(() => find(db, person, query)));
  figure('find.p95', quantile(times.slice(queries.length * 2), 0.95), 'ms');
}
