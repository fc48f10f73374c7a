import { ReplaceStep } from 'prosemirror-transform';
import { Fragment, Slice } from 'prosemirror-model';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { grantInClass, grantInCourse } from '../../src/lib/server/access/in-the-name-of';
import { beginBuild, buildClass } from '../../src/lib/server/class/build-class';
import { readMailbox } from '../../src/lib/server/message/messages';
import { beginAs } from '../../src/lib/server/copy/own-pages';
import { readOwnWork } from '../../src/lib/server/copy/own-work';
import { readNotes, writeNote } from '../../src/lib/server/course/notes';
import { bringBack, paste, readMovedAway } from '../../src/lib/server/course/paste';
import { addUnit, readListedPages } from '../../src/lib/server/course/units';
import { deskLines } from '../../src/lib/core/desk/desk-lines';
import { readDesk } from '../../src/lib/server/desk/desk';
import { handOutWhenDue, saveDraft, readDrafts } from '../../src/lib/server/handout/drafts';
import { readKnown } from '../../src/lib/server/roster/known';
import { answerRequest, readAsked } from '../../src/lib/server/roster/join-requests';
import { giveFirstPasswords } from '../../src/lib/server/roster/first-passwords';
import { useApp } from '../support/app';
import { changeAs, handOutAs, rosterAs, setStaffAs, shareAs } from '../support/deeds';
import {
  addPerson,
  assign,
  makeSchool,
  PASSWORD,
  PLACES,
  questionPage,
  type TestSchool,
} from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';
import { inCourse, inClass, newPage } from '../support/grants';

const test = useApp();
let server: Server;
let school: TestSchool;
const at = new Date();

beforeAll(async () => {
  server = await Server.start(test.url);
});
afterAll(() => server.stop());
beforeEach(async () => {
  school = await makeSchool(test.app, 3);
});

async function visit(name: string): Promise<Visitor> {
  const visitor = new Visitor(server.origin);
  expect((await visitor.signIn(`${name}${school.id}`, PASSWORD)).status).toBe(200);
  return visitor;
}
const typed = (place: number, text: string) =>
  new ReplaceStep(place, place, new Slice(Fragment.from(schema.text(text)), 0, 0)).toJSON();
const write = (page: string, person: string, place: number, text: string, base = 0, owner = true) =>
  test.app.pages.append(
    page,
    { id: person, owner },
    {
      base,
      client: `client-${person.slice(0, 8)}-${base}`,
      first: 1,
      lost: [],
      steps: [typed(place, text)],
    },
  );
const leave = (person: string) =>
  test.app.db
    .updateTable('enrolment')
    .set({ left_at: new Date() })
    .where('person_id', '=', person)
    .execute();
const classPage = (area: 'shelf' | 'worktable' | 'cupboard', title: string = area) =>
  newPage(
    test.app.db,
    {
      at,
      title,
      in: { kind: 'class page', class: school.class, area },
    },
    questionPage(),
  );
const first = () => school.students[0] ?? '';
const person = (id: string) =>
  test.app.db.selectFrom('person').selectAll().where('id', '=', id).executeTakeFirstOrThrow();

describe('an assignment of two classes', () => {
  it('is changed only by who leads both, and run in one by who leads that', async () => {
    await setStaffAs(test.app, school.teacher, school.class, school.stranger, 'co-teacher');
    const { original } = await assign(test.app, school);
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'use');
    const id = crypto.randomUUID();
    const spec = plainSpec(original, school.class, { title: 'Both' });
    const both = {
      ...spec,
      classes: [
        ...spec.classes,
        { class: school.otherClass, unit: null, grouping: null, due: null },
      ],
    };
    await handOutAs(test.app, { id, spec: both, by: school.stranger, at });
    // The teacher leads 7A alone: leaving 7B out of the spec would withdraw it there.
    const teacher = await visit('teacher');
    const path = `/classes/${school.class}/assignments/${id}`;
    expect((await teacher.send(`${path}/change`, { spec, preview: false })).status).toBe(403);
    expect((await teacher.send(`${path}/change`, { spec, preview: true })).status).toBe(403);
    const undone = await teacher.submit(`${path}?/undo`, { change: crypto.randomUUID() });
    expect([undone.status, (await undone.json()).type]).toEqual([403, 'error']);
    const withdrawn = await teacher.submit(`${path}?/withdraw`, { withdrawn: 'true' });
    expect((await withdrawn.json()).type).toBe('success');
    const rows = await test.app.db
      .selectFrom('assignment_class')
      .select(['class_id', 'withdrawn_at'])
      .where('assignment_id', '=', id)
      .execute();
    expect(rows.find(({ class_id }) => class_id === school.class)?.withdrawn_at).not.toBeNull();
    expect(rows.find(({ class_id }) => class_id === school.otherClass)?.withdrawn_at).toBeNull();
    // And nobody is given it who is not in this class.
    const given = await teacher.submit(`${path}?/give`, { students: school.otherStudent });
    expect((await given.json()).type).toBe('failure');
  });
});

describe('who leads', () => {
  it('is given and taken by leads alone, who tell whom it concerns', async () => {
    const co = await addPerson(test.app, school, 'co', 'teacher');
    await setStaffAs(test.app, school.teacher, school.class, co, 'co-teacher');
    expect((await readMailbox(test.app.db, co)).map(({ subject }) => subject)).toEqual([
      'You are a co-teacher of 7A now',
    ]);
    const helper = await visit('co');
    const staff = (who: string, kind: string) =>
      helper
        .submit(`/classes/${school.class}/set-up?/staff`, { person: who, kind })
        .then((answer) => answer.json());
    expect(await staff(co, 'lead')).toMatchObject({ type: 'failure', status: 403 });
    expect(await staff(school.teacher, 'no')).toMatchObject({ type: 'failure', status: 403 });
    expect(await staff(school.teacher, 'marker')).toMatchObject({ type: 'failure', status: 403 });
    expect(await staff(school.stranger, 'marker')).toMatchObject({ type: 'success' });
    await setStaffAs(test.app, school.teacher, school.class, co, 'lead');
    await setStaffAs(test.app, co, school.class, school.teacher, null);
    expect((await readMailbox(test.app.db, school.teacher))[0]?.subject).toBe(
      'You are no longer one of the staff of 7A',
    );
  });

  it('of a course is told when a co-owner takes it from them', async () => {
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'own');
    await shareAs(test.app, school.stranger, school.course, school.teacher, null);
    expect((await readMailbox(test.app.db, school.teacher))[0]?.subject).toContain(
      'no longer shared with you',
    );
  });
});

describe('a student of another class', () => {
  const entry = (given: string) => ({ line: 1, given, family: 'Person', email: '', officeId: '' });

  it('is asked, not put in, and joins by their own yes; their name and password stay theirs', async () => {
    const other = school.otherStudent;
    await rosterAs(
      test.app,
      { id: school.class },
      {
        entries: [entry('other')],
        whole: false,
        chosen: [{ key: `joins ${other}` }],
        by: school.teacher,
        source: 'a file',
        officeClass: null,
      },
    );
    const here = async () =>
      (
        await test.app.db
          .selectFrom('enrolment')
          .select('left_at')
          .where('class_id', '=', school.class)
          .where('person_id', '=', other)
          .execute()
      ).length;
    expect(await here()).toBe(0);
    const keeping = await grantInClass(
      test.app.db,
      'manage the class',
      school.teacher,
      school.class,
    );
    await test.app.db
      .updateTable('person')
      .set({ password_hash: '' })
      .where('id', '=', other)
      .execute();
    expect(await giveFirstPasswords(test.app.db, keeping)).toEqual([]);
    const asked = await readAsked(test.app.db, other);
    expect(asked).toMatchObject([{ name: '7A', class: school.class }]);
    // Nobody answers for somebody else, but the office.
    await expect(
      answerRequest(test.app, await person(first()), { class: school.class, person: other }, true),
    ).rejects.toMatchObject({ status: 404 });
    await answerRequest(
      test.app,
      await person(other),
      { class: school.class, person: other },
      true,
    );
    expect(await here()).toBe(1);
    expect(await readAsked(test.app.db, other)).toEqual([]);
    expect(await giveFirstPasswords(test.app.db, keeping)).toEqual([]);
  });

  it('is not renamed by a teacher who does not teach them', async () => {
    const chosen = [{ key: `doubtful ${school.otherStudent} Person, othes`, as: 'same' as const }];
    await rosterAs(
      test.app,
      { id: school.class },
      {
        entries: [entry('othes')],
        whole: false,
        chosen,
        by: school.teacher,
        source: 'a file',
        officeClass: null,
      },
    );
    expect((await person(school.otherStudent)).given).toBe('other');
    expect(await readAsked(test.app.db, school.otherStudent)).toHaveLength(1);
  });

  it('joins at once when the office’s own records say so', async () => {
    await rosterAs(
      test.app,
      { id: school.class },
      {
        entries: [entry('other')],
        whole: false,
        chosen: [{ key: `joins ${school.otherStudent}` }],
        by: school.teacher,
        source: 'the office',
        officeClass: null,
        fromOffice: true,
      },
    );
    expect(await readAsked(test.app.db, school.otherStudent)).toEqual([]);
  });

  it('keeps the office’s number, whatever a file says', async () => {
    const bring = (officeId: string, fromOffice: boolean) =>
      rosterAs(
        test.app,
        { id: school.class },
        {
          entries: [{ ...entry('student1'), officeId }],
          whole: false,
          chosen: [],
          by: school.teacher,
          source: 'x',
          officeClass: null,
          fromOffice,
        },
      );
    const number = async () => {
      const grant = await grantInClass(
        test.app.db,
        'manage the class',
        school.teacher,
        school.class,
      );
      const known = await readKnown(test.app.db, grant.thing);
      return known.find((one) => one.person === first())?.officeId;
    };
    await bring('o-1', true);
    await bring('o-2', false);
    expect(await number()).toBe('o-1');
    // A file cannot give somebody else's number to another person either.
    await rosterAs(
      test.app,
      { id: school.class },
      {
        entries: [{ ...entry('student2'), officeId: 'o-1' }],
        whole: false,
        chosen: [],
        by: school.teacher,
        source: 'x',
        officeClass: null,
      },
    );
    expect(await number()).toBe('o-1');
  });
});

describe('who left a class', () => {
  it('has its shared pages no more: not in their work, not to hand in, and is not counted on the desk', async () => {
    const { original } = await assign(test.app, school);
    const id = crypto.randomUUID();
    const spec = plainSpec(original, school.class, {
      title: 'Shared',
      originals: [{ page: original, delivery: 'one for all' as const }],
      due: { kind: 'at', local: '2031-05-06T10:00' },
    });
    await handOutAs(test.app, { id, spec, by: school.teacher, at });
    await leave(first());
    const work = await readOwnWork(test.app, first());
    expect(work.filter(({ assignment }) => assignment === id)).toEqual([]);
    const page = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', id)
      .executeTakeFirstOrThrow();
    expect((await test.app.findPage(first(), page.id))?.relation).toBe('nobody');
    for (const student of school.students.slice(1)) await leave(student);
    const now = Date.parse('2031-05-05');
    const desk = await readDesk(test.app.db, await person(school.teacher), now);
    const lines = deskLines({ ...desk, lacking: [], stuck: [], office: [] }, now);
    expect(lines.filter(({ kind }) => kind === 'nudge')).toEqual([]);
  });
});

describe('a page of a student’s own', () => {
  it('is not removed by the staff', async () => {
    const own = {
      school: school.id,
      class: school.class,
      student: first(),
      title: 'Mine',
      unit: null,
    };
    const page = await beginAs(test.app, own, questionPage());
    const teacher = await visit('teacher');
    await teacher.submit(`/classes/${school.class}/plan?/away`, { page, away: 'true' });
    const row = await test.app.db
      .selectFrom('page')
      .select('away_at')
      .where('id', '=', page)
      .executeTakeFirst();
    expect(row?.away_at).toBeNull();
  });
});

describe('a score that is not handed back', () => {
  it('is told to its student by nothing: not by their own move, not by the time it was given', async () => {
    const { copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    await write(copy, first(), PLACES.short, 'sand');
    const teacher = await visit('teacher');
    await teacher.send(`/pages/${copy}/marking`, { move: 'score', given: { points: '8.75' } });
    const student = await visit('student1');
    const moved = await student.send(`/pages/${copy}/moves`, { move: 'hand in' });
    expect(moved.status).toBe(200);
    expect(await moved.json()).toMatchObject({
      points: null,
      facts: { scored: null, looked: null },
    });
    const work = await (await student.fetch('/work/__data.json')).text();
    const { scored } = await test.app.db
      .selectFrom('score')
      .select('at as scored')
      .where('page_id', '=', copy)
      .executeTakeFirstOrThrow();
    expect(work).not.toContain(String(scored.getTime()));
    expect(work).not.toContain('8.75');
  });
});

describe('a page that comes out of the cupboard', () => {
  it('begins for students where they see it: nothing that was deleted before is told', async () => {
    const page = await classPage('cupboard');
    await write(page, school.teacher, PLACES.guarded, 'SECRET ', 0, false);
    const gone = { stepType: 'replace', from: PLACES.guarded, to: PLACES.guarded + 7 };
    await test.app.pages.append(
      page,
      { id: school.teacher, owner: false },
      { base: 1, client: 'client-delete', first: 1, lost: [], steps: [gone] },
    );
    const teacher = await visit('teacher');
    await teacher.submit(`/classes/${school.class}/plan?/area`, { page, area: 'worktable' });
    const student = await visit('student1');
    for (const since of [0, 1]) {
      const answer = await student.fetch(`/pages/${page}/steps?since=${since}`);
      expect(answer.status).toBe(409);
      expect(await answer.text()).not.toContain('SECRET');
      const sent = await student.send(`/pages/${page}/steps`, {
        base: since,
        client: `client-of-one-${since}`,
        first: 1,
        steps: [typed(PLACES.short, 'x')],
      });
      expect(sent.status).toBe(409);
    }
    expect((await student.fetch(`/pages/${page}/steps?since=2`)).status).toBe(200);
    expect((await teacher.fetch(`/pages/${page}/steps?since=0`)).status).toBe(200);
  });
});

describe('units that are brought from a class', () => {
  it('bring the pages, and nothing that a student wrote in them', async () => {
    const page = await classPage('worktable', 'Words we found');
    await write(page, school.teacher, PLACES.short, 'Of the staff. ', 0, false);
    await write(page, first(), PLACES.short, 'A CHILD WROTE THIS ', 1);
    await write(page, school.teacher, PLACES.short, 'And more. ', 2, false);
    await setStaffAs(test.app, school.stranger, school.otherClass, school.teacher, 'co-teacher');
    const into = await grantInClass(
      test.app.db,
      'manage the class',
      school.teacher,
      school.otherClass,
    );
    const [build = ''] = await beginBuild(test.app, [into], {
      assignments: [],
      rules: false,
      source: { class: school.class },
      sections: [],
      units: [{ id: null, readings: 'shelf', originals: 'worktable' }],
    });
    await buildClass(test.app, build);
    const there = await readListedPages(test.app.db, { class: school.otherClass });
    const came = there.find(({ title }) => title === 'Words we found');
    const text = (await test.app.pages.open(came?.id ?? '')).doc.textContent;
    expect(text).not.toContain('CHILD');
    expect(text).toContain('And more. Of the staff. ');
  });
});

describe('a page that a class writes in together', () => {
  it('is not handed out once students have written in it', async () => {
    const page = await classPage('worktable', 'Ours');
    const hand = (title: string) =>
      handOutAs(test.app, {
        id: crypto.randomUUID(),
        by: school.teacher,
        at: new Date(),
        spec: plainSpec(page, school.class, { title }),
      });
    await hand('Before');
    await write(page, first(), PLACES.short, 'A CHILD WROTE THIS ', 0);
    await expect(hand('After')).rejects.toMatchObject({ status: 409 });
  });

  it('reaches those who join later as it was handed out', async () => {
    const page = await classPage('worktable', 'Ours, too');
    const id = crypto.randomUUID();
    const [one = '', late = ''] = school.students;
    const some = plainSpec(page, school.class, { title: 'Some', only: [one] });
    await handOutAs(test.app, { id, spec: some, by: school.teacher, at });
    await write(page, one, PLACES.short, 'A CHILD WROTE THIS ', 0);
    const all = plainSpec(page, school.class, { title: 'Some' });
    await changeAs(test.app, {
      assignment: id,
      spec: all,
      begin: 'original',
      by: school.teacher,
      at: new Date(),
    });
    const copy = await test.app.db
      .selectFrom('page')
      .select(['id', 'source_version'])
      .where('assignment_id', '=', id)
      .where('student_id', '=', late)
      .executeTakeFirstOrThrow();
    expect(copy.source_version).toBe(0);
    expect((await test.app.pages.open(copy.id)).doc.textContent).not.toContain('CHILD');
  });
});

describe('private notes of a course', () => {
  it('are for those who write it, also through a class that was built from it', async () => {
    const { db } = test.app;
    const page = await newPage(
      db,
      { at, title: 'Noted', in: { kind: 'original', course: school.course } },
      questionPage(),
    );
    const note = { about: 'page', id: page, text: 'PRIVATE' } as const;
    await writeNote(db, await inCourse(db, school.course), note);
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'use');
    await paste(test.app, await inClass(db, school.otherClass), {
      pages: [page],
      rubrics: [],
      unit: null,
      move: false,
    });
    const there = { class: school.otherClass };
    expect(await readNotes(db, there, school.stranger)).toEqual([]);
    expect(await readNotes(db, { course: school.course }, school.stranger)).toEqual([]);
    const user = await visit('stranger');
    expect(await (await user.fetch(`/courses/${school.course}/__data.json`)).text()).not.toContain(
      'PRIVATE',
    );
    expect(await (await user.fetch('/find?q=PRIVATE')).json()).toMatchObject({ found: [] });
    const owner = await visit('teacher');
    expect(await (await owner.fetch('/find?q=PRIVATE')).json()).toMatchObject({
      found: [{ kind: 'note' }],
    });
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'write');
    expect(await readNotes(db, there, school.stranger)).toMatchObject([{ text: 'PRIVATE' }]);
  });
});

describe('moving a page out of a course', () => {
  it('is its owner’s, who finds it listed and brings it back', async () => {
    const page = await newPage(
      test.app.db,
      { at, title: 'Here', in: { kind: 'original', course: school.course } },
      questionPage(),
    );
    const mine = await test.app.db
      .selectFrom('course_staff')
      .select('course_id')
      .where('person_id', '=', school.stranger)
      .executeTakeFirstOrThrow();
    const move = async (who: string) => {
      const into = await inCourse(test.app.db, mine.course_id, who);
      return paste(test.app, into, { pages: [page], rubrics: [], unit: null, move: true });
    };
    await shareAs(test.app, school.teacher, school.course, school.stranger, 'write');
    await expect(move(school.stranger)).rejects.toMatchObject({ status: 403 });
    await shareAs(test.app, school.stranger, mine.course_id, school.teacher, 'write');
    expect(await move(school.teacher)).toBe(1);
    expect(await readMovedAway(test.app.db, school.course)).toMatchObject([
      { title: 'Here', to: 'Other course' },
    ]);
    const grant = await grantInCourse(
      test.app.db,
      'share the course',
      school.teacher,
      school.course,
    );
    await bringBack(test.app.db, grant, page);
    const listed = await readListedPages(test.app.db, { course: school.course });
    expect(listed.map(({ id }) => id)).toContain(page);
    expect(await readMovedAway(test.app.db, school.course)).toEqual([]);
  });
});

describe('small holes', () => {
  it('lets no page begin in another class’s unit', async () => {
    const foreign = await addUnit(
      test.app.db,
      await inClass(test.app.db, school.otherClass),
      'Theirs',
    );
    const teacher = await visit('teacher');
    const answer = await teacher.submit(`/classes/${school.class}/plan?/begin`, {
      title: 'X',
      unit: foreign,
      area: 'shelf',
    });
    expect(await answer.json()).toMatchObject({ type: 'failure', status: 404 });
  });

  it('does not hand out what somebody planned who may not any more', async () => {
    const { original } = await assign(test.app, school);
    const co = await addPerson(test.app, school, 'co', 'teacher');
    await setStaffAs(test.app, school.teacher, school.class, co, 'co-teacher');
    await shareAs(test.app, school.teacher, school.course, co, 'use');
    const id = crypto.randomUUID();
    const grant = await grantInClass(test.app.db, 'hand out', co, school.class);
    const spec = plainSpec(original, school.class, { title: 'Planned' });
    const goesOut = new Date(Date.now() + 1000);
    await saveDraft(test.app, grant, { id, spec, goesOut, version: 0 }, new Date());
    await setStaffAs(test.app, school.teacher, school.class, co, null);
    await handOutWhenDue(test.app, id, new Date(Date.now() + 2000));
    const [kept] = (await readDrafts(test.app.db, [school.class])).filter((one) => one.id === id);
    expect(kept?.fault).toContain('do not hand out');
  });

  it('takes nothing from a page that is not of Uncia, nor from the tab of somebody else', async () => {
    const student = await visit('student1');
    const { copies } = await assign(test.app, school);
    const send = (headers: Record<string, string>) =>
      student.fetch(`/pages/${copies[0]}/moves`, {
        method: 'POST',
        body: JSON.stringify({ move: 'hand in' }),
        headers: { 'content-type': 'application/json', ...headers },
      });
    expect((await send({ origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await send({ origin: 'null' })).status).toBe(403);
    expect((await send({ 'x-uncia-person': school.teacher })).status).toBe(401);
    expect((await send({ 'x-uncia-person': first() })).status).toBe(200);
  });

  it('keeps nothing in caches that a person may not see', async () => {
    const student = await visit('student1');
    for (const path of ['/work', '/work/__data.json', '/find?q=x', '/account'])
      expect((await student.fetch(path)).headers.get('cache-control')).toContain('no-store');
  });
});
