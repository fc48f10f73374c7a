import { beforeEach, describe, expect, it } from 'vitest';
import type { MarginView } from '../../src/lib/core/copy/threads';
import { MOST_SAID } from '../../src/lib/core/copy/said-file';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { beginUpload, dropUpload, readUpload } from '../../src/lib/server/attached/uploads';
import { onCopy } from '../../src/lib/server/attached/receive-on-copy';
import { dealOut } from '../../src/lib/server/copy/deal-out';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { openSaid, openWaiting, withComment } from '../../src/lib/server/copy/said-files';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { useApp } from '../support/app';
import { sendWithComment } from '../support/attach';
import { inCourse, toComment, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
/** A PNG’s first bytes, by which its type is told. */
const PNG = Buffer.from(
  '89504e470d0a1a0a0000000d49484452000000010000000108060000001f15c489',
  'hex',
);
let school: TestSchool;
let assigned: Assigned;
let page = '';
let student = '';

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  const rubric = await beginRubric(
    test.app.db,
    await inCourse(test.app.db, school.course),
    { unit: null, title: 'Method' },
    { levels: [1, 2], criteria: [{ id: 'sight', title: 'Seeing', descriptors: ['a', 'b'] }] },
  );
  assigned = await assign(test.app, school, { points: '10', rubric });
  page = assigned.copies[0] ?? '';
  student = school.students[0] ?? '';
  await opened(test.app, await toSee(test.app, { page, person: student }));
});

const by = (person: string) => toComment(test.app, { page, person });
const send = (person = school.teacher, name = 'light.png', bytes = PNG) =>
  sendWithComment(test.app, { page, person }, { name, bytes });
const say = async (more: Partial<Parameters<typeof beginThread>[2]>, person = school.teacher) =>
  beginThread(test.app, await by(person), { text: 'Like this.', anchor: null, ...more });
const margin = (id: string): Promise<MarginView> =>
  readMargin(test.app, page, { id, isStudent: id === student });
const last = async () => (await margin(school.teacher)).threads.at(-1)?.comments[0];
const openAs = async (person: string, comment: string) => {
  const grant = await grantOnPage(test.app, 'read the comments', person, page);
  const pieces: Buffer[] = [];
  const file = await openSaid(test.app, grant, comment);
  for await (const one of file.bytes({ from: 0, to: file.size })) pieces.push(one);
  return Buffer.concat(pieces);
};

describe('a comment on a criterion', () => {
  it('says which, as it was called then; and is on none that the rubric does not have', async () => {
    await say({ criterion: 'sight' });
    const [thread] = (await margin(student)).threads;
    expect(thread?.criterion).toEqual({ id: 'sight', title: 'Seeing' });
    await expect(say({ criterion: 'other' })).rejects.toThrow('not in the rubric any more');
    const plain = await assign(test.app, school, {});
    page = plain.copies[0] ?? '';
    await expect(say({ criterion: 'sight' })).rejects.toThrow('not in the rubric any more');
  });
});

describe('a picture that goes with a comment', () => {
  it('is there for its student with the words, and only then', async () => {
    const file = await send();
    const waiting = await openWaiting(test.app, await by(school.teacher), file);
    expect([waiting.name, waiting.type]).toEqual(['light.png', 'image/png']);
    await expect(openWaiting(test.app, await by(student), file)).rejects.toThrow('not here');
    await say({ file });
    const comment = await last();
    expect(comment?.file).toEqual({ name: 'light.png', as: 'picture' });
    expect(await openAs(student, comment?.id ?? '')).toEqual(PNG);
    await expect(openWaiting(test.app, await by(school.teacher), file)).rejects.toThrow('not here');
    // One that is not wanted is gone at once; what was said stays.
    const unwanted = await send();
    const to = withComment(test.app, await by(school.teacher));
    await dropUpload(test.app, to, unwanted);
    await expect(dropUpload(test.app, to, unwanted)).rejects.toThrow('not on its way');
    await expect(dropUpload(test.app, to, file)).rejects.toThrow('not on its way');
    // An answer takes one along, too; not somebody else’s, and not one that went already.
    const thread = (await margin(school.teacher)).threads.at(-1)?.id ?? '';
    const answer = async (person: string, file: string) =>
      addComment(test.app, await by(person), thread, { kind: 'said', text: 'And this.', file });
    const another = await send();
    await expect(answer(student, another)).rejects.toThrow('not here any more');
    await answer(school.teacher, another);
    await expect(answer(school.teacher, another)).rejects.toThrow('not here any more');
    const [, answered] = (await margin(student)).threads.at(-1)?.comments ?? [];
    expect(answered?.file).toEqual({ name: 'light.png', as: 'picture' });
    expect(await openAs(student, answered?.id ?? '')).toEqual(PNG);
    // Once it went with its words it goes with no others.
    await expect(say({ file })).rejects.toThrow('not here any more');
    const [other = ''] = assigned.copies.slice(1);
    const there = await grantOnPage(test.app, 'read the comments', school.teacher, other);
    await expect(openSaid(test.app, there, comment?.id ?? '')).rejects.toThrow('nothing of that');
  });

  it('is kept back with its words, and of what is for staff a student sees nothing', async () => {
    await handIn(test.app, await toWork(test.app, { page, person: student }), '');
    await say({ file: await send(), keptBack: true });
    const kept = (await last())?.id ?? '';
    await say({ file: await send(), staffOnly: true });
    const among = (await last())?.id ?? '';
    await expect(openAs(student, kept)).rejects.toThrow('nothing of that kind');
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
    expect(await openAs(student, kept)).toEqual(PNG);
    await expect(openAs(student, among)).rejects.toThrow('nothing of that kind');
    expect(await openAs(school.marker, among)).toEqual(PNG);
  });

  it('of one of two who mark apart is not seen by the other', async () => {
    await handIn(test.app, await toWork(test.app, { page, person: student }), '');
    const at = { assignment: assigned.assignment, class: school.class };
    const running = await grantOnAssignment(test.app.db, 'run the assignment', school.teacher, at);
    const markers = [school.teacher, school.marker];
    await dealOut(test.app, running, { by: 'evenly', twice: 2, markers });
    await say({ file: await send(school.marker), keptBack: true }, school.marker);
    const own = (await margin(school.marker)).threads[0]?.comments[0]?.id ?? '';
    expect(await openAs(school.marker, own)).toEqual(PNG);
    await expect(openAs(school.teacher, own)).rejects.toThrow('nothing of that kind');
  });

  it('is a teacher’s to send, a picture or sound, of moderate weight; of two who take it one gets it', async () => {
    await expect(send(student)).rejects.toThrow('Teachers put pictures');
    await expect(send(school.teacher, 'words.txt', Buffer.from('words'))).rejects.toThrow(
      '“words.txt” is neither a picture nor sound.',
    );
    const to = withComment(test.app, await by(school.teacher));
    const heavy = beginUpload(test.app, to, { name: 'all.wav', size: MOST_SAID + 1 });
    await expect(heavy).rejects.toThrow('“all.wav” is larger than 20 MB.');
    const file = await send();
    await expect(say({ file }, school.marker)).rejects.toThrow('not here any more');
    const twice = await Promise.allSettled([say({ file }), say({ file }), say({ file })]);
    expect(twice.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect((await margin(school.teacher)).threads).toHaveLength(1);
    // The two ways by which files come to a copy know nothing of each other.
    const own = onCopy(test.app, await toWork(test.app, { page, person: student }));
    const { id } = await beginUpload(test.app, own, { name: 'mine.png', size: PNG.length });
    const other = withComment(test.app, await by(student));
    await expect(readUpload(test.app, other, id)).rejects.toThrow('not on its way');
  });

  it('that nobody put into words is forgotten in time; what is said stays', async () => {
    const [left, kept] = [await send(), await send()];
    await say({ file: kept });
    await test.app.db
      .updateTable('upload')
      .set({ made_at: new Date(Date.now() - 8 * 86_400_000) })
      .where('id', 'in', [left, kept])
      .execute();
    await send();
    const there = await test.app.db.selectFrom('upload').select('id').execute();
    expect(there.map(({ id }) => id)).toContain(kept);
    expect(there.map(({ id }) => id)).not.toContain(left);
  });
});
