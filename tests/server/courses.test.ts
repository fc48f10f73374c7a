import { beforeAll, describe, expect, it } from 'vitest';
import { grantInCourse } from '../../src/lib/server/access/in-the-name-of';
import { findCourse } from '../../src/lib/server/access/relation';
import { adapt, readBase, settleAdapted } from '../../src/lib/server/course/adapted';
import { copyPages } from '../../src/lib/server/course/copy-pages';
import {
  readCourses,
  readRemovedCourses,
  setCourseAway,
} from '../../src/lib/server/course/courses';
import {
  putListAway,
  readCodes,
  readRemovedLists,
  saveCodes,
} from '../../src/lib/server/course/code-lists';
import { readTagged, tag } from '../../src/lib/server/course/code-tags';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import {
  changeNote,
  openNote,
  readNotes,
  readPageNotes,
  settleNote,
  writeNote,
} from '../../src/lib/server/course/notes';
import { paste } from '../../src/lib/server/course/paste';
import { readKeys, writeKey } from '../../src/lib/server/course/answer-keys';
import {
  addUnit,
  arrange,
  bringUnitBack,
  dropUnit,
  putAway,
  readListedPages,
  readUnits,
} from '../../src/lib/server/course/units';
import { shareAs } from '../support/deeds';
import { useApp } from '../support/app';
import { assign, makeSchool, questionPage, type TestSchool } from '../support/school';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { toKeep, inCourse, inClass, newPage } from '../support/grants';

const test = useApp();
let school: TestSchool;
let course: { id: string; title: string; school_id: number };
const at = new Date();

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  course = { id: school.course, title: 'Course', school_id: school.id };
});

const begin = (title: string, unit: string | null = null, id = school.course) =>
  newPage(test.app.db, { at, title, unit, in: { kind: 'original', course: id } }, questionPage());
const titles = async (id = school.course) =>
  (await readListedPages(test.app.db, { course: id })).map(({ title }) => title);

describe('an adapted original', () => {
  it('is settled with the keys that were seen: one that was changed meanwhile is offered', async () => {
    const { app } = test;
    const page = await begin('Keyed meanwhile');
    const keep = await toKeep(app, { page, person: school.teacher });
    const accept = (word: string) =>
      writeKey(app.db, keep, 'short', { kind: 'short', accepted: [word] });
    await accept('north');
    await adapt(app, await inCourse(app.db, school.course), page);
    const { id } = await app.db
      .selectFrom('page')
      .select('id')
      .where('from_id', '=', page)
      .executeTakeFirstOrThrow();
    const adapted = await toKeep(app, { page: id, person: school.teacher });
    const read = async () =>
      readBase(app, (await toKeep(app, { page: id, person: school.teacher })).thing);
    const seen = await read();
    await accept('south');
    await settleAdapted(app.db, adapted, {
      version: seen?.version ?? 0,
      keys: seen?.keys.is ?? {},
    });
    const { was, is } = (await read())?.keys ?? {};
    expect(was).toEqual({ short: { kind: 'short', accepted: ['north'] } });
    expect(is).toEqual({ short: { kind: 'short', accepted: ['south'] } });
  });
});

describe('a course', () => {
  it('keeps units and what is in them in the order somebody wants, and nothing of another course', async () => {
    const { db } = test.app;
    const holder = { course: school.course };
    const grant = await inCourse(db, school.course);
    const [first, second] = [await addUnit(db, grant, 'First'), await addUnit(db, grant, 'Second')];
    const [a, b, c] = [await begin('a', first), await begin('b', first), await begin('c', second)];
    const stranger = await begin('stranger', null, await otherCourse());
    await arrange(db, grant, {
      units: [
        { id: second, things: [b, c, stranger] },
        { id: first, things: [a] },
      ],
    });
    expect((await readUnits(db, holder)).map(({ title }) => title)).toEqual(['Second', 'First']);
    const pages = await readListedPages(db, holder);
    expect(pages.filter(({ unit }) => unit === second).map(({ title }) => title)).toEqual([
      'b',
      'c',
    ]);
    const elsewhere = await test.app.findPage(school.stranger, stranger);
    expect(elsewhere?.thing.unit_id).toBeNull();
    await dropUnit(db, grant, first);
    expect((await readListedPages(db, holder)).find(({ id }) => id === a)?.unit).toBeNull();
  });

  it('copies pages with their keys and without their history, and moves them with it', async () => {
    const { app } = test;
    const page = await begin('To be copied');
    const key = { kind: 'number', value: '4.4', tolerance: '0.1', unit: 'm' } as const;
    await writeKey(app.db, await toKeep(app, { page, person: school.teacher }), 'number', key);
    const step = {
      stepType: 'replace',
      from: 1,
      to: 1,
      slice: { content: [{ type: 'text', text: 'New: ' }] },
    };
    await app.pages.append(
      page,
      { id: school.teacher, owner: false },
      { base: 0, client: 'a-client', first: 1, lost: [], steps: [step] },
    );
    const target = { course: await otherCourse() };
    await shareAs(app, school.stranger, target.course, school.teacher, 'write');
    const into = await inCourse(app.db, target.course, school.teacher);
    const spec = { pages: [page], rubrics: [], unit: null };
    expect(await paste(app, into, { ...spec, move: false })).toBe(1);
    const copy = (await readListedPages(app.db, target)).find(({ from }) => from === page);
    if (!copy) throw new Error('no copy was made');
    const [was, is] = [await app.pages.open(page), await app.pages.open(copy.id)];
    expect(is.doc.eq(was.doc)).toBe(true);
    expect([was.version, is.version]).toEqual([1, 0]);
    expect(copy.parts).toBe(4);
    expect(await readKeys(app.db, copy.id)).toEqual(await readKeys(app.db, page));

    expect(await paste(app, into, { ...spec, move: true })).toBe(1);
    expect(await titles()).not.toContain('To be copied');
    expect((await app.pages.open(page)).version).toBe(1);
  });

  it('gives nobody’s pages to somebody who has no part in them, nor lets a user move them', async () => {
    const { app } = test;
    const page = await begin('Not yours');
    const theirs = await inCourse(app.db, await otherCourse());
    const take = (move: boolean) =>
      paste(app, theirs, { pages: [page], rubrics: [], unit: null, move });
    await expect(take(false)).rejects.toMatchObject({ status: 404 });
    await shareAs(app, school.teacher, course.id, school.stranger, 'use');
    await expect(take(true)).rejects.toMatchObject({ status: 403 });
    expect(await take(false)).toBe(1);
    await shareAs(app, school.teacher, course.id, school.stranger, null);
    await expect(take(false)).rejects.toMatchObject({ status: 404 });
  });

  it('is shared to use or to write, and always has somebody whose it is', async () => {
    const { db } = test.app;
    const relation = async () => (await findCourse(db, school.marker, course.id))?.relation;
    expect(await relation()).toBe('nobody');
    await shareAs(test.app, school.teacher, course.id, school.marker, 'use');
    expect(await relation()).toBe('user');
    await shareAs(test.app, school.teacher, course.id, school.marker, 'write');
    expect(await relation()).toBe('keeper');
    await expect(
      shareAs(test.app, school.teacher, course.id, school.teacher, 'use'),
    ).rejects.toMatchObject({
      status: 409,
    });
    await expect(
      shareAs(test.app, school.teacher, course.id, school.office, 'use'),
    ).rejects.toMatchObject({
      status: 404,
    });
    await shareAs(test.app, school.teacher, course.id, school.marker, null);
    expect(await relation()).toBe('nobody');
  });

  it('takes a page away and brings it back as it was', async () => {
    const page = await begin('Now and then');
    await putAway(test.app.db, await inCourse(test.app.db, course.id), page, true);
    expect(await titles()).not.toContain('Now and then');
    expect(
      (await readListedPages(test.app.db, { course: course.id }, true)).map(({ title }) => title),
    ).toContain('Now and then');
    await putAway(test.app.db, await inCourse(test.app.db, course.id), page, false);
    expect(await titles()).toContain('Now and then');
  });

  it('shows notes where the thing they are about was carried to, until they are dealt with', async () => {
    const { app } = test;
    const page = await begin('Noted');
    const note = { text: 'Shorter next time.', about: 'page', id: page } as const;
    const grant = await inCourse(app.db, course.id);
    await writeNote(app.db, grant, note);
    await expect(
      writeNote(app.db, await inCourse(app.db, await otherCourse()), note),
    ).rejects.toMatchObject({ status: 404 });
    /** Carries a page into a class. @returns the page there */
    const carry = async (from: string, into: string) => {
      await inTransaction(app.db, (tx) =>
        copyPages(app.memory, tx, {
          school: school.id,
          pages: [from],
          unit: null,
          at,
          in: { kind: 'class page', class: into, area: 'cupboard' },
        }),
      );
      const pages = await readListedPages(app.db, { class: into });
      return pages.find((one) => one.from === from)?.id ?? '';
    };
    const carried = await carry(page, school.otherClass);
    const again = await carry(carried, school.class);
    const seen = await readNotes(app.db, { class: school.class }, school.teacher);
    expect(seen.map(({ text, about }) => [text, about])).toEqual([['Shorter next time.', again]]);
    expect(await readPageNotes(app.db, [again], school.teacher)).toEqual(seen);
    await settleNote(app.db, grant, seen[0]?.id ?? '');
    expect(await readNotes(app.db, { class: school.class }, school.teacher)).toEqual([]);
  });
});

describe('curriculum codes', () => {
  it('are put on pages, criteria and assignments, and say where they are covered', async () => {
    const { app } = test;
    const grant = await inCourse(app.db, school.course);
    const list = {
      title: 'Curriculum',
      codes: [
        { code: 'A', statement: 'over', parent: null },
        { code: 'A.1', statement: 'under', parent: 0 },
        { code: 'B', statement: 'alone', parent: null },
      ],
      passed: [],
    };
    await saveCodes(app.db, grant, list);
    const codes = await readCodes(app.db, school.id);
    expect(codes.map(({ code, depth }) => [code, depth])).toEqual([
      ['A', 0],
      ['A.1', 1],
      ['B', 0],
    ]);
    const [a = '', a1 = ''] = codes.map(({ id }) => id);
    const { original, assignment } = await assign(app, school, { title: 'Coded' });
    const table = { levels: [1], criteria: [{ id: 'c', title: 'Truth', descriptors: [''] }] };
    const rubric = await beginRubric(app.db, grant, { unit: null, title: 'R' }, table);
    await tag(app.db, grant, { on: { page: original }, codes: [a, a1] });
    await tag(app.db, grant, { on: { page: original }, codes: [a1] });
    await tag(app.db, grant, { on: { rubric, criterion: 'c' }, codes: [a1] });
    await tag(app.db, grant, { on: { rubric, criterion: 'gone' }, codes: [a1] });
    await tag(app.db, await inClass(app.db, school.class), { on: { assignment }, codes: [a1] });
    const tagged = await readTagged(app.db, school.course);
    expect(tagged.map(({ code, kind, title }) => [code, kind, title])).toEqual(
      expect.arrayContaining([
        [a1, 'page', 'Coded'],
        [a1, 'criterion', 'Truth, in R'],
        [a1, 'assignment', 'Coded'],
      ]),
    );
    expect(tagged).toHaveLength(3);
  });

  it('of a list that is read again are brought up to date, and a removed list comes back with what it carries', async () => {
    const { app } = test;
    const grant = await inCourse(app.db, school.course);
    const list = (...codes: [string, string][]) => ({
      title: 'Again',
      codes: codes.map(([code, statement]) => ({ code, statement, parent: null })),
      passed: [],
    });
    const first = list(['K1', 'one'], ['K2', 'two']);
    // Twenty at once: one list comes of it, the others are asked.
    const answers = await Promise.all(
      Array.from({ length: 20 }, () => saveCodes(app.db, grant, first)),
    );
    expect(answers.filter((one) => one === null)).toHaveLength(1);
    expect(answers.find(Boolean)).toMatchObject({ added: 0, changed: 0, gone: 0 });
    const read = async () =>
      (await readCodes(app.db, school.id)).filter((one) => one.list === 'Again');
    const [k1] = await read();
    const { original } = await assign(app, school, { title: 'Carries K1' });
    await tag(app.db, grant, { on: { page: original }, codes: [k1?.id ?? ''] });
    const carries = async () =>
      (await readTagged(app.db, school.course)).filter(({ code }) => code === k1?.id).length;

    const second = list(['K2', 'two, anew'], ['K3', 'three']);
    expect(await saveCodes(app.db, grant, second)).toMatchObject({ added: 1, changed: 1, gone: 1 });
    expect((await read()).map(({ code }) => code)).toEqual(['K1', 'K2']);
    await saveCodes(app.db, grant, second, 'update');
    expect((await read()).map(({ code, statement }) => [code, statement])).toEqual([
      ['K2', 'two, anew'],
      ['K3', 'three'],
    ]);
    await saveCodes(app.db, grant, first, 'update');
    expect((await read())[0]).toMatchObject({ id: k1?.id, code: 'K1' });
    expect(await carries()).toBe(1);

    const colleague = await inCourse(app.db, await otherCourse());
    await expect(putListAway(app.db, colleague, k1?.set ?? '', true)).rejects.toMatchObject({
      status: 403,
    });
    await putListAway(app.db, grant, k1?.set ?? '', true);
    expect(await read()).toEqual([]);
    const removed = await readRemovedLists(app.db, school.id, school.teacher);
    expect(removed).toEqual([{ id: k1?.set, title: 'Again' }]);
    await putListAway(app.db, grant, k1?.set ?? '', false);
    expect((await read())[0]?.id).toBe(k1?.id);
    expect(await carries()).toBe(1);
  });
});

const otherCourse = async () =>
  (
    await test.app.db
      .selectFrom('course_staff')
      .select('course_id')
      .where('person_id', '=', school.stranger)
      .where('may', '=', 'own')
      .executeTakeFirstOrThrow()
  ).course_id;

describe('a course that its owner removed', () => {
  it('is in nobody’s list and not found, and comes back with all that is in it', async () => {
    const { db } = test.app;
    const own = await grantInCourse(db, 'share the course', school.teacher, school.course);
    const listed = async () => (await readCourses(db, school.teacher)).map(({ id }) => id);
    const before = await readCourses(db, school.teacher);
    await setCourseAway(db, own, true);
    expect(await listed()).not.toContain(school.course);
    expect((await readRemovedCourses(db, school.teacher)).map(({ id }) => id)).toEqual([
      school.course,
    ]);
    await setCourseAway(db, own, false);
    expect(await readCourses(db, school.teacher)).toEqual(before);
    expect(await readRemovedCourses(db, school.teacher)).toEqual([]);
  });
});

describe('a unit that was taken away', () => {
  it('comes back with its notes and with what stood in it; a note is changed and stands open again', async () => {
    const { db } = test.app;
    const holder = { course: school.course };
    const grant = await inCourse(db, school.course);
    const unit = await addUnit(db, grant, 'Comes back');
    const [stays, moves] = [await begin('In it', unit), await begin('Elsewhere', unit)];
    await writeNote(db, grant, { about: 'unit', id: unit, text: 'Shorter.' });
    await dropUnit(db, grant, unit);
    const unitOf = async (page: string) =>
      (await readListedPages(db, holder)).find(({ id }) => id === page)?.unit ?? null;
    expect(await unitOf(stays)).toBeNull();
    const other = await addUnit(db, grant, 'Another');
    await db.updateTable('page').set({ unit_id: other }).where('id', '=', moves).execute();
    await bringUnitBack(db, grant, unit);
    expect([await unitOf(stays), await unitOf(moves)]).toEqual([unit, other]);
    const notes = async () =>
      (await readNotes(db, holder, grant.person.id)).filter(({ about }) => about === unit);
    const [note] = await notes();
    expect(note).toMatchObject({ text: 'Shorter.', own: true });
    await changeNote(db, grant, { note: note?.id ?? '', text: 'Longer.' });
    await settleNote(db, grant, note?.id ?? '');
    expect(await notes()).toEqual([]);
    await openNote(db, grant, note?.id ?? '');
    expect(await notes()).toMatchObject([{ text: 'Longer.' }]);
  });
});
