import { sql } from 'kysely';
import { beforeAll, describe, expect, it } from 'vitest';
import type { SignedIn } from '../../src/lib/server/access/session';
import { openClass, closeClass } from '../../src/lib/server/class/open-class';
import { beginThread } from '../../src/lib/server/copy/threads';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { putListAway, readCodes, saveCodes } from '../../src/lib/server/course/code-lists';
import { beginRubric, putRubricAway, writeRubric } from '../../src/lib/server/course/rubrics';
import { writeNote } from '../../src/lib/server/course/notes';
import { find } from '../../src/lib/server/find/find';
import { Indexer } from '../../src/lib/server/find/indexer';
import { useApp } from '../support/app';
import {
  assign,
  makeSchool,
  PLACES,
  questionPage,
  type Assigned,
  type TestSchool,
} from '../support/school';
import { handOutAs } from '../support/deeds';
import { toComment, inCourse, inClass, newPage } from '../support/grants';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  const { app } = test;
  assigned = await assign(app, school, { title: 'Tide tables' });
  const [copy = ''] = assigned.copies;
  const text = [{ type: 'text', text: 'A crab under the Åland jetty' }];
  await app.pages.append(
    copy,
    { id: school.students[0] ?? '', owner: true },
    {
      base: 0,
      client: 'a-client',
      first: 1,
      lost: [],
      steps: [
        { stepType: 'replace', from: PLACES.short, to: PLACES.short, slice: { content: text } },
      ],
    },
  );
  await beginThread(app, await toComment(app, { page: copy, person: school.teacher }), {
    text: 'Which limpet?',
    anchor: null,
  });
  await writeNote(app.db, await inCourse(app.db, school.course), {
    about: 'page',
    id: assigned.original,
    text: 'Mind the barnacle question',
  });
  for (const area of ['shelf', 'cupboard'] as const)
    await newPage(
      app.db,
      {
        at: new Date(),
        title: `Seaweed of the ${area}`,
        in: { kind: 'class page', class: school.class, area },
      },
      questionPage(),
    );
  await app.indexer.catchUp();
});

const as = (id: string, role: SignedIn['role']): SignedIn => ({
  id,
  role,
  school_id: school.id,
  given: '',
  family: '',
  called: '',
});
const found = async (id: string, role: SignedIn['role'], query: string) =>
  (await find(test.app.db, as(id, role), query)).map(({ kind, title }) => `${kind}: ${title}`);
const teacher = (query: string) => found(school.teacher, 'teacher', query);
const student = (query: string, n = 0) => found(school.students[n] ?? '', 'student', query);

describe('finding', () => {
  it('finds pages by title and text, copies by what was written, notes, comments, people, assignments', async () => {
    expect(await teacher('tide')).toEqual(
      expect.arrayContaining(['page: Tide tables', 'assignment: Tide tables', 'copy: Tide tables']),
    );
    expect(await teacher('guarded words')).toContain('page: Tide tables');
    expect(await teacher('crab jet')).toEqual(['copy: Tide tables']);
    expect(await teacher('aland')).toEqual(['copy: Tide tables']);
    expect(await teacher('limpet')).toEqual(['comment: Tide tables']);
    expect(await teacher('barnacle')).toEqual(['note: Tide tables']);
    expect(await teacher('student1')).toContain('person: student1 Person');
    expect(await teacher('seaweed')).toHaveLength(2);
  });

  it('finds rubrics and codes, leads to them in a course that is theirs, and not once they are away', async () => {
    const { app } = test;
    const grant = await inCourse(app.db, school.course);
    const table = (says: string) => ({
      levels: [1],
      criteria: [{ id: 'c', title: 'Halyard', descriptors: [says] }],
    });
    const rubric = await beginRubric(
      app.db,
      grant,
      { unit: null, title: 'Hoisting' },
      table('taut'),
    );
    const codes = [{ code: 'SAIL.7', statement: 'Ties a bowline', parent: null }];
    await saveCodes(app.db, grant, { title: 'Sailing', codes, passed: [] });
    const [hit] = await find(app.db, as(school.teacher, 'teacher'), 'taut halyard');
    expect(hit).toMatchObject({
      kind: 'rubric',
      title: 'Hoisting',
      to: `/courses/${school.course}/rubrics/${rubric}`,
    });
    const [code] = await readCodes(app.db, school.id);
    const [bowline] = await find(app.db, as(school.teacher, 'teacher'), 'bowline');
    expect(bowline).toMatchObject({
      kind: 'code',
      title: 'SAIL.7',
      place: 'Sailing',
      to: `/courses/${school.course}/codes?code=${code?.id}`,
    });
    expect(await student('bowline')).toEqual([]);
    expect(await student('halyard')).toEqual([]);
    // Codes are the school's; rubrics, a course's.
    expect(await found(school.stranger, 'teacher', 'bowline')).toEqual(['code: SAIL.7']);
    expect(await found(school.stranger, 'teacher', 'halyard')).toEqual([]);

    await writeRubric(app.db, grant, rubric, {
      title: 'Hoisting',
      table: table('loose'),
      version: 0,
    });
    expect(await teacher('taut')).toEqual([]);
    expect(await teacher('loose')).toEqual(['rubric: Hoisting']);
    await putRubricAway(app.db, grant, rubric, true);
    await putListAway(app.db, grant, code?.set ?? '', true);
    expect(await teacher('loose')).toEqual([]);
    expect(await teacher('bowline')).toEqual([]);
  });

  it('finds a note where what it is about was moved to', async () => {
    const { app } = test;
    const grant = await inCourse(app.db, school.course);
    const rubric = await beginRubric(app.db, grant, { unit: null, title: 'Noted rubric' });
    await writeNote(app.db, grant, { about: 'rubric', id: rubric, text: 'Mind the gunwale' });
    const { course_id: theirs } = await app.db
      .selectFrom('course_staff')
      .select('course_id')
      .where('person_id', '=', school.stranger)
      .where('may', '=', 'own')
      .executeTakeFirstOrThrow();
    expect(await found(school.stranger, 'teacher', 'gunwale')).toEqual([]);
    await app.db
      .updateTable('rubric')
      .set({ course_id: theirs })
      .where('id', '=', rubric)
      .execute();
    expect(await found(school.stranger, 'teacher', 'gunwale')).toEqual(['note: Noted rubric']);
    expect(await teacher('gunwale')).toEqual([]);
  });

  it('shows the words around the hit, and leads there', async () => {
    const [hit] = await find(test.app.db, as(school.teacher, 'teacher'), 'jetty');
    expect(hit?.snippet).toContainEqual({ text: 'jetty', found: true });
    expect(hit?.to).toBe(`/classes/${school.class}/marking/${assigned.copies[0]}`);
    expect(hit?.place).toBe('student1 Person, 7A');
  });

  it('finds signs as they were typed, and not every word that begins with a letter of them', async () => {
    const page = (title: string) =>
      newPage(
        test.app.db,
        { in: { kind: 'original', course: school.course }, title, at: new Date() },
        questionPage(),
      );
    await page('Crab 🦀 count');
    await page('Speed in m/s');
    await page('Many sands');
    await test.app.indexer.catchUp();
    expect(await teacher('🦀')).toEqual(['page: Crab 🦀 count']);
    expect(await teacher('m/s')).toEqual(['page: Speed in m/s']);
    expect(await teacher('100%_')).toEqual([]);
  });

  it('forgives misspellings', async () => {
    expect(await teacher('baranacle')).toEqual(['note: Tide tables']);
    expect(await teacher('sehweed shelv')).toContain('page: Seaweed of the shelf');
    expect(await teacher('quixotic')).toEqual([]);
  });

  it('keeps to what each may see', async () => {
    expect(await student('crab')).toEqual(['copy: Tide tables']);
    expect(await student('crab', 1)).toEqual([]);
    expect(await student('limpet')).toEqual(['comment: Tide tables']);
    expect(await student('limpet', 1)).toEqual([]);
    expect(await student('barnacle')).toEqual([]);
    expect(await student('seaweed')).toEqual(['page: Seaweed of the shelf']);
    expect(await student('student2')).toEqual([]);
    for (const query of ['crab', 'limpet', 'barnacle', 'seaweed', 'tide', 'student1']) {
      expect(await found(school.stranger, 'teacher', query)).toEqual([]);
      expect(await found(school.otherStudent, 'student', query)).toEqual([]);
    }
    expect(await found(school.office, 'office', 'crab')).toEqual([]);
    expect(await found(school.office, 'office', 'student1')).toContain('person: student1 Person');
  });

  it('finds a comment on a page that several share, for those who share it', async () => {
    const [first = '', second = ''] = school.students;
    const hand = crypto.randomUUID();
    await handOutAs(test.app, {
      id: hand,
      by: school.teacher,
      at: new Date(),
      spec: plainSpec(assigned.original, school.class, {
        title: 'Crew page',
        without: [second],
        originals: [{ page: assigned.original, delivery: 'one for all' }],
      }),
    });
    const shared = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', hand)
      .executeTakeFirstOrThrow();
    const about = { page: shared.id, person: school.teacher };
    await beginThread(test.app, await toComment(test.app, about), {
      text: 'Whose whelk?',
      anchor: null,
    });
    await test.app.indexer.catchUp();
    const [hit] = await find(test.app.db, as(school.teacher, 'teacher'), 'whelk');
    expect(hit).toMatchObject({ kind: 'comment', title: 'Crew page', place: '7A' });
    const mine = await find(test.app.db, as(first, 'student'), 'whelk');
    expect(mine.map(({ to }) => to)).toEqual([`/work/${shared.id}`]);
    expect(await student('whelk', 1)).toEqual([]);
    expect(await found(school.otherStudent, 'student', 'whelk')).toEqual([]);
    const [set] = (await find(test.app.db, as(school.teacher, 'teacher'), 'crew')).filter(
      ({ kind }) => kind === 'assignment',
    );
    expect(set?.to).toBe(`/classes/${school.class}/assignments/${hand}`);
  });

  it('reads again what a process that died had left unread', async () => {
    const [, second = ''] = assigned.copies;
    const text = [{ type: 'text', text: 'Periwinkle' }];
    await test.app.pages.append(
      second,
      { id: school.students[1] ?? '', owner: true },
      {
        base: 0,
        client: 'b-client',
        first: 1,
        lost: [],
        steps: [
          { stepType: 'replace', from: PLACES.short, to: PLACES.short, slice: { content: text } },
        ],
      },
    );
    expect(await teacher('periwinkle')).toEqual([]);
    // Another process knows nothing of it but what the log says.
    await new Indexer(test.app).catchUp();
    expect(await teacher('periwinkle')).toEqual(['copy: Tide tables']);
  });

  it('finds nothing of a closed class for its students', async () => {
    await closeClass(test.app, await inClass(test.app.db, school.class));
    for (const query of ['crab', 'tide', 'seaweed', 'limpet', 'teacher'])
      expect(await student(query)).toEqual([]);
    await openClass(test.app, await inClass(test.app.db, school.class), new Date());
    expect(await student('crab')).toHaveLength(1);
  });

  it('takes any question for words', async () => {
    for (const query of ['', '  ', '!!', "'; drop table page; --", 'a & | ! ( :*', '\\', '%', '_'])
      expect(Array.isArray(await teacher(query))).toBe(true);
  });
});

describe('what many say at once', () => {
  it('is written without one waiting for another', async () => {
    const { db } = test.app;
    const words = Array.from({ length: 60 }, (_, i) => `deadlock${i}word`);
    const said = (i: number) => [...words.slice(i * 3), ...words.slice(0, i * 3)].join(' ');
    const threads = await db.selectFrom('thread').select(['id', 'school_id']).execute();
    const [thread] = threads;
    const comment = (text: string) => ({
      school_id: thread?.school_id ?? 0,
      thread_id: thread?.id ?? '',
      person_id: school.teacher,
      kind: 'said' as const,
      text,
    });
    for (let round = 0; round < 3; round++)
      await Promise.all(
        Array.from({ length: 5 }, async (_, i) =>
          db.transaction().execute(async (tx) => {
            // Two comments in one transaction, the same new words the other way round in another.
            const [a, b] = i % 2 ? ['ebb', 'flow'] : ['flow', 'ebb'];
            await tx
              .insertInto('comment')
              .values(comment(`${a}${round} ${said(i)}`))
              .execute();
            await tx
              .insertInto('comment')
              .values(comment(`${b}${round} ${round}`))
              .execute();
          }),
        ),
      );
    const { rows } = await sql<{ n: number }>`select count(distinct word)::int as n from find_word
      where word like 'deadlock%'`.execute(db);
    expect(rows[0]?.n).toBe(60);
  });
});
