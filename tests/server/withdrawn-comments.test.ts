import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { MarginView } from '../../src/lib/core/copy/threads';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { setWithdrawn } from '../../src/lib/server/copy/withdraw-comment';
import { readQuestions } from '../../src/lib/server/desk/questions';
import { useApp } from '../support/app';
import { sendWithComment } from '../support/attach';
import { setStaffAs } from '../support/deeds';
import { toComment, toMark, toSee, toWork } from '../support/grants';
import { addPerson, assign, makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let page = '';
let student = '';

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  page = (await assign(test.app, school, { points: '10' })).copies[0] ?? '';
  student = school.students[0] ?? '';
  await opened(test.app, await toSee(test.app, { page, person: student }));
  await handIn(test.app, await toWork(test.app, { page, person: student }), '');
});

const by = (person = school.teacher) => toComment(test.app, { page, person });
const say = async (
  more: Partial<Parameters<typeof beginThread>[2]> = {},
  person = school.teacher,
) => beginThread(test.app, await by(person), { text: 'Nearly', anchor: null, ...more });
const keep = () => say({ keptBack: true });
const withdraw = async (comment: string, withdrawn = true, person = school.teacher) =>
  setWithdrawn(test.app, await by(person), comment, withdrawn);
const goBack = async () =>
  handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
const read = (id: string): Promise<MarginView> =>
  readMargin(test.app, page, { id, isStudent: id === student });
const words = async (id: string) =>
  (await read(id)).threads.flatMap(({ comments }) =>
    comments.filter(({ kind }) => kind === 'said').map(({ text }) => text),
  );

describe('a comment that its student does not have yet', () => {
  it('is withdrawn, and never comes to them; it is brought back, and goes with the copy', async () => {
    const { comment } = await keep();
    await withdraw(comment);
    expect((await read(school.teacher)).threads).toEqual([]);
    await goBack();
    expect((await read(student)).threads).toEqual([]);
    // By then it would be theirs at once.
    await expect(withdraw(comment, false)).rejects.toThrow('went back meanwhile');
    expect((await read(student)).threads).toEqual([]);

    const later = await keep();
    await withdraw(later.comment);
    await withdraw(later.comment, false);
    expect(await words(school.teacher)).toEqual(['Nearly']);
    expect(await words(student)).toEqual([]);
    await goBack();
    expect(await words(student)).toEqual(['Nearly']);
    await expect(withdraw(later.comment)).rejects.toThrow('stays said');
  });

  it('is settled, and neither it nor its place is told before the copy goes back', async () => {
    const { thread } = await keep();
    const told = vi.spyOn(test.app.news, 'publish');
    const toldOf = async (kind: 'settled' | 'opened again') => {
      told.mockClear();
      await addComment(test.app, await by(), thread, { kind, text: '' });
      expect(told).toHaveBeenCalledOnce();
      return JSON.stringify(told.mock.calls).includes(student);
    };
    expect(await toldOf('settled')).toBe(false);
    expect((await read(student)).threads).toEqual([]);
    await expect(
      by(student).then((grant) =>
        addComment(test.app, grant, thread, { kind: 'said', text: 'Who is there?' }),
      ),
    ).rejects.toThrow('does not exist');
    await goBack();
    expect((await read(student)).threads).toMatchObject([{ settled: true }]);
    expect(await toldOf('opened again')).toBe(true);
    told.mockRestore();
  });

  it('leaves nothing behind when all of a conversation is withdrawn, though it was settled', async () => {
    const { thread, comment } = await keep();
    await addComment(test.app, await by(), thread, { kind: 'settled', text: '' });
    await withdraw(comment);
    await goBack();
    for (const person of [school.teacher, student])
      expect((await read(person)).threads).toEqual([]);
  });

  it('is said in other words, in its place and kept back as before, by one of many who ask at once', async () => {
    const { thread, comment } = await keep();
    const changed = await Promise.allSettled(
      Array.from({ length: 8 }, async (_, which) =>
        addComment(test.app, await by(), thread, {
          kind: 'said',
          text: `Other words ${which}`,
          keptBack: true,
          instead: comment,
        }),
      ),
    );
    expect(changed.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const [now, ...more] = await words(school.teacher);
    expect(now).toMatch(/^Other words \d$/);
    expect(more).toEqual([]);
    expect(await words(student)).toEqual([]);
    await goBack();
    expect(await words(student)).toEqual([now]);
  });

  it('either goes out or is withdrawn, whoever is first', async () => {
    for (let round = 0; round < 6; round++) {
      const { comment } = await keep();
      const before = await words(student);
      const [withdrawn] = await Promise.allSettled([withdraw(comment), goBack()]);
      const gone = withdrawn.status === 'fulfilled';
      expect((await words(student)).length - before.length).toBe(gone ? 0 : 1);
      expect(await words(school.teacher)).toEqual(await words(student));
    }
  });

  it('is its writer’s alone to withdraw, and only what is kept back', async () => {
    const other = await addPerson(test.app, school, 'colleague', 'teacher');
    await setStaffAs(test.app, school.teacher, school.class, other, 'co-teacher');
    const kept = await keep();
    for (const person of [other, student])
      for (const is of [true, false])
        await expect(withdraw(kept.comment, is, person)).rejects.toThrow('not yours');
    const sent = await say();
    const among = await say({ staffOnly: true });
    const answer = await say({}, student);
    for (const { comment } of [sent, among])
      await expect(withdraw(comment)).rejects.toThrow('stays said');
    await expect(withdraw(answer.comment, true, student)).rejects.toThrow('stays said');
    // Nor is somebody else’s changed by whoever says something.
    await expect(
      by(other).then((grant) =>
        addComment(test.app, grant, kept.thread, {
          kind: 'said',
          text: 'Mine',
          keptBack: true,
          instead: kept.comment,
        }),
      ),
    ).rejects.toThrow('not yours');
    expect(await words(school.teacher)).toEqual(['Nearly', 'Nearly', 'Nearly', 'Nearly']);
    // Of another page it is not there.
    const elsewhere = (await assign(test.app, school)).copies[0] ?? '';
    const there = await toComment(test.app, { page: elsewhere, person: school.teacher });
    await expect(setWithdrawn(test.app, there, kept.comment, true)).rejects.toThrow('not there');
  });

  it('keeps what goes with its words for whoever brings it back', async () => {
    const file = await sendWithComment(
      test.app,
      { page, person: school.teacher },
      { name: 'a.txt.png', bytes: Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex') },
    );
    const { comment } = await say({ keptBack: true, file });
    await withdraw(comment);
    await withdraw(comment, false);
    expect((await read(school.teacher)).threads[0]?.comments[0]?.file).toMatchObject({
      name: 'a.txt.png',
    });
  });

  it('leaves a student’s question open when the answer to it is withdrawn', async () => {
    const { thread } = await say({ text: 'When is low water?' }, student);
    const asked = () => readQuestions(test.app.db, school.teacher, [school.class]);
    expect(await asked()).toHaveLength(1);
    await addComment(test.app, await by(), thread, {
      kind: 'said',
      text: 'At six',
      keptBack: true,
    });
    expect(await asked()).toHaveLength(0);
    const answer = (await read(school.teacher)).threads[0]?.comments.at(-1);
    await withdraw(answer?.id ?? '');
    expect(await asked()).toHaveLength(1);
  });
});
