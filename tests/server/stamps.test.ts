import { beforeEach, describe, expect, it } from 'vitest';
import { grantByRole } from '../../src/lib/server/access/in-the-name-of';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { beginThread, readMargin } from '../../src/lib/server/copy/threads';
import {
  addStamp,
  changeStamp,
  readPicture,
  readStamps,
} from '../../src/lib/server/phrasebook/stamps';
import { useApp } from '../support/app';
import { toComment, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let page = '';

/** One dot, as a PNG (the smallest there is; by hand after RFC 2083). */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const keeping = (person = school.teacher) => grantByRole(test.app.db, 'keep a phrasebook', person);
const add = async (word: string, picture = PNG, person = school.teacher) =>
  addStamp(test.app, await keeping(person), { word, picture });
const margin = (person: string, isStudent: boolean) =>
  readMargin(test.app, page, { id: person, isStudent });
const put = async (
  stamp: { kind: 'drawn'; name: 'eye' } | { kind: 'own'; id: string },
  person = school.teacher,
  keptBack = false,
) =>
  beginThread(test.app, await toComment(test.app, { page, person }), {
    text: 'Well seen',
    anchor: null,
    stamp,
    keptBack,
  });

beforeEach(async () => {
  school = await makeSchool(test.app, 1);
  const { copies } = await assign(test.app, school, { points: '10' });
  page = copies[0] ?? '';
  const whose = { page, person: school.students[0] ?? '' };
  await opened(test.app, await toSee(test.app, whose));
  await handIn(test.app, await toWork(test.app, whose), '');
});

describe('a stamp', () => {
  it('is put on a copy by one of the staff, and kept back like a comment', async () => {
    const [student = ''] = school.students;
    await put({ kind: 'drawn', name: 'eye' }, school.marker, true);
    expect((await margin(student, true)).threads).toEqual([]);
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), {
      given: { points: '7' },
    });
    expect((await margin(student, true)).threads).toMatchObject([
      { stamp: { kind: 'drawn', name: 'eye' }, comments: [{ text: 'Well seen', by: 'marker' }] },
    ]);
    await expect(put({ kind: 'drawn', name: 'eye' }, student)).rejects.toThrow('Teachers put');
  });

  it('of one’s own is one’s own, until it is removed; where it was put, it stays', async () => {
    const id = await add('Beaufort’s own');
    await expect(put({ kind: 'own', id }, school.marker)).rejects.toThrow('none of yours');
    await put({ kind: 'own', id });
    await changeStamp(test.app, await keeping(), { id, away: true });
    await expect(put({ kind: 'own', id })).rejects.toThrow('none of yours');
    expect((await margin(school.teacher, false)).threads).toHaveLength(1);
    const [student = ''] = school.students;
    const seen = await grantByRole(test.app.db, 'be signed in', student);
    expect((await readPicture(test.app, seen, id)).equals(PNG)).toBe(true);
    await changeStamp(test.app, await keeping(), { id, away: false });
    await changeStamp(test.app, await keeping(), { id, word: 'Fair wind' });
    expect(await readStamps(test.app.db, await keeping())).toEqual([
      { id, word: 'Fair wind', away: false },
    ]);
    const others = await keeping(school.stranger);
    await expect(changeStamp(test.app, others, { id, word: 'Mine' })).rejects.toThrow('none of');
  });

  it('is no stamp of another school, no other file than a picture, and one of sixty at most', async () => {
    const id = await add('Ours');
    const other = await makeSchool(test.app, 1);
    const seen = await grantByRole(test.app.db, 'be signed in', other.teacher);
    await expect(readPicture(test.app, seen, id)).rejects.toThrow('no such stamp');
    await expect(add('A page', Buffer.from('<svg onload="alert(1)"/>'))).rejects.toThrow(
      'no picture',
    );
    await expect(add('Huge', Buffer.alloc(200_000))).rejects.toThrow('too large');
    const done = await Promise.allSettled(
      Array.from({ length: 70 }, (_, index) => add(`Number ${index}`)),
    );
    expect(done.filter(({ status }) => status === 'fulfilled')).toHaveLength(59);
  });
});
