import type { Step } from 'prosemirror-transform';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { partsOf } from '../../src/lib/core/page/parts';
import { schema } from '../../src/lib/core/page/schema';
import { offerFromJson } from '../../src/lib/core/proposals/proposal';
import { decideProposals, type DEEDS } from '../../src/lib/server/copy/decide-proposals';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn } from '../../src/lib/server/copy/moves';
import { propose, withdrawProposals } from '../../src/lib/server/copy/propose';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { readMailbox } from '../../src/lib/server/message/messages';
import { useApp } from '../support/app';
import { toComment, toMark, toWork } from '../support/grants';
import { assign, makeSchool, PLACES } from '../support/school';

const test = useApp();

async function setUp(text = 'The water go up slowly. I would wait.') {
  const school = await makeSchool(test.app, 2);
  const { copies, assignment } = await assign(test.app, school);
  const page = copies[0] ?? '';
  const student = school.students[0] ?? '';
  const { app } = test;
  let no = 0;
  /** A client of its own each time, as a browser that was opened anew. */
  const change = async (person: string, owner: boolean, edit: (page: Transform) => unknown) => {
    const held = await app.pages.open(page);
    const transform = new Transform(held.doc);
    edit(transform);
    await app.pages.append(
      page,
      { id: person, owner },
      {
        base: held.version,
        client: `client-of-${++no}`,
        first: 1,
        lost: [],
        steps: transform.steps.map((step) => step.toJSON()),
      },
    );
  };
  await change(student, true, (at) => at.insert(PLACES.writing, schema.text(text)));
  const place = async (words: string) => {
    const { doc } = await app.pages.open(page);
    let from = -1;
    doc.descendants((node, pos) => {
      const at = node.isText ? (node.text ?? '').indexOf(words) : -1;
      if (at >= 0 && from < 0) from = pos + at;
    });
    return { from, to: from + words.length };
  };
  const steps = async (edit: (page: Transform) => unknown): Promise<readonly Step[]> => {
    const transform = new Transform((await app.pages.open(page)).doc);
    edit(transform);
    return transform.steps;
  };
  const offer = async (by: string, some: readonly (readonly Step[])[], keptBack = false) =>
    propose(app, await toMark(app, { page, person: by }), {
      version: (await app.pages.open(page)).version,
      proposals: some.map((one) => ({ steps: one.map((step) => step.toJSON() as object) })),
      keptBack,
    });
  const replace = async (by: string, words: string, becomes: string, keptBack = false) => {
    const { from, to } = await place(words);
    await offer(
      by,
      [await steps((at) => at.replaceWith(from, to, schema.text(becomes)))],
      keptBack,
    );
  };
  const margin = (isStudent = false) =>
    readMargin(app, page, { id: isStudent ? student : school.teacher, isStudent });
  const ids = async () => (await margin(true)).proposals.map(({ id }) => id);
  const decide = async (deed: (typeof DEEDS)[number], which: readonly string[], by = student) =>
    decideProposals(app, await toWork(app, { page, person: by }), { deed, ids: which });
  const read = async () =>
    partsOf((await app.pages.open(page)).doc).find(({ kind }) => kind === 'writing')?.answer;
  return {
    school,
    page,
    student,
    assignment,
    change,
    place,
    steps,
    offer,
    replace,
    margin,
    ids,
    decide,
    read,
  };
}

describe('a proposal', () => {
  it('is in no page until its student takes it; then it stays its proposer’s', async () => {
    const { school, page, replace, margin, ids, decide, read } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    expect(await read()).toBe('The water go up slowly. I would wait.');
    const [seen] = (await margin(true)).proposals;
    expect(seen).toMatchObject({ kind: 'replace', was: 'go', becomes: 'goes', state: 'open' });
    expect(await decide('take', await ids())).toBeNull();
    expect(await read()).toBe('The water goes up slowly. I would wait.');
    const held = await test.app.pages.open(page);
    const teachers = held.authorship().filter(({ author }) => author === school.teacher);
    expect(teachers.map(({ from, to }) => held.doc.textBetween(from, to))).toEqual(['goes']);
    const [now] = (await margin()).proposals;
    expect(now).toMatchObject({ state: 'taken', offer: null, own: true });
    expect(now?.decided).toMatchObject({ by: 'student1', own: false });
  });

  it('is told to its student, gathered until they read it', async () => {
    const { school, student, replace } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    await replace(school.teacher, 'wait', 'wait here');
    const mine = await readMailbox(test.app.db, student);
    expect(mine.filter(({ subject }) => subject.includes('proposal'))).toMatchObject([
      { subject: expect.stringMatching(/^2 proposals in /) },
    ]);
  });

  it('is left, opened again, undone after it was taken, and decided anew', async () => {
    const { school, replace, margin, ids, decide, read, change, student, place } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    await decide('leave', await ids());
    expect((await margin(true)).proposals[0]?.state).toBe('left');
    await decide('open again', await ids());
    await decide('take', await ids());
    // What is written elsewhere meanwhile stays.
    const { from } = await place('I would');
    await change(student, true, (at) => at.insert(from, schema.text('So ')));
    await decide('undo', await ids());
    expect(await read()).toBe('The water go up slowly. So I would wait.');
    expect((await margin(true)).proposals[0]).toMatchObject({ state: 'open' });
    await decide('take', await ids());
    expect(await read()).toBe('The water goes up slowly. So I would wait.');
    // Its words are others by now.
    const goes = await place('goes');
    await change(student, true, (at) => at.replaceWith(goes.from, goes.to, schema.text('rises')));
    await expect(decide('undo', await ids())).rejects.toThrow('changed since');
    expect(await read()).toBe('The water rises up slowly. So I would wait.');
  });

  it('whose words are gone stays in the margin with what it said, and cannot be taken', async () => {
    const { school, replace, margin, ids, decide, read, change, student, place } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    await replace(school.teacher, 'wait', 'wait until 09:30');
    const { from, to } = await place('go up');
    await change(student, true, (at) => at.replaceWith(from, to, schema.text('rises')));
    const { proposals } = await margin(true);
    expect(proposals.map(({ was, state, offer }) => [was, state, offer !== null])).toEqual([
      ['go', 'open', false],
      ['wait', 'open', true],
    ]);
    // Of all that are taken together, it alone is not.
    expect(await decide('take', await ids())).toContain('“goes”');
    expect(await read()).toBe('The water rises slowly. I would wait until 09:30.');
    await expect(decide('take', await ids())).rejects.toThrow('words have changed');
    await decide('leave', [proposals[0]?.id ?? '']);
  });

  it('is withdrawn by who made it, while nobody has decided it', async () => {
    const { school, page, replace, ids, decide, margin } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    const asMarker = await toMark(test.app, { page, person: school.marker });
    await expect(withdrawProposals(test.app, asMarker, await ids())).rejects.toThrow('not yours');
    const own = await toMark(test.app, { page, person: school.teacher });
    await withdrawProposals(test.app, own, await ids());
    expect((await margin()).proposals[0]?.state).toBe('withdrawn');
    await expect(decide('take', await ids())).rejects.toThrow();
    await expect(withdrawProposals(test.app, own, await ids())).rejects.toThrow('decided already');
  });

  it('stands in the answers of a guarded page, and is no change of the page’s own text', async () => {
    const { school, offer, steps, margin } = await setUp();
    const own = await steps((at) => at.insert(2, schema.text('x')));
    await expect(offer(school.teacher, [own])).rejects.toThrow('guarded');
    expect((await margin()).proposals).toEqual([]);
    const none = await steps((at) => at.insert(2, schema.text('x')).delete(2, 3));
    await expect(offer(school.teacher, [none])).rejects.toThrow('does not fit');
  });

  it('cannot be decided while the copy is with the teacher', async () => {
    const { school, page, student, replace, ids, decide } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    await handIn(test.app, await toWork(test.app, { page, person: student }), '');
    await expect(decide('take', await ids())).rejects.toThrow('handed in');
  });

  it('is taken once of twenty times at once, and two students’ typing meanwhile stays', async () => {
    const { school, student, replace, ids, decide, read, change, place } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    const which = await ids();
    const { from } = await place('slowly');
    const settled = await Promise.allSettled([
      ...Array.from({ length: 20 }, () => decide('take', which)),
      change(student, true, (at) => at.insert(from, schema.text('very '))),
    ]);
    expect(settled.filter(({ status }) => status === 'fulfilled')).toHaveLength(2);
    expect(await read()).toBe('The water goes up very slowly. I would wait.');
  });

  it('of several who propose at one place is taken as far as it fits', async () => {
    const { school, replace, ids, decide, read } = await setUp();
    await replace(school.teacher, 'go', 'goes');
    await replace(school.marker, 'go up', 'rises');
    expect(await decide('take', await ids())).toContain('“rises”');
    expect(await read()).toBe('The water goes up slowly. I would wait.');
  });

  it('stands where it stands for the browser that hears of every step', async () => {
    const { school, page, replace, margin, change, student, place } = await setUp();
    await replace(school.teacher, 'wait', 'wait here');
    const { from } = await place('slowly');
    // More steps than a page remembers with its process.
    for (let i = 0; i < 12; i++)
      await change(student, true, (at) => {
        for (let j = 0; j < 50; j++) at.insert(from, schema.text('x'));
      });
    const { proposals } = await margin();
    const json = proposals[0]?.offer;
    const { doc } = await test.app.pages.open(page);
    const [range] = json ? offerFromJson(json).takesOut : [];
    expect(range && doc.textBetween(range.from, range.to)).toBe('wait');
  });
});

describe('what goes with the copy when it is handed back', () => {
  it('is not there for its student until then, in no margin, message or news', async () => {
    const { school, page, student, replace, margin } = await setUp();
    const { app } = test;
    const comment = await toComment(app, { page, person: school.teacher });
    await replace(school.teacher, 'go', 'goes', true);
    await beginThread(app, comment, { text: 'See the heart of it?', anchor: null, keptBack: true });
    await beginThread(app, comment, { text: 'Ask at home.', anchor: null, staffOnly: true });
    expect(await margin(true)).toMatchObject({ threads: [], proposals: [] });
    const staff = await margin();
    expect(staff.proposals).toMatchObject([{ keptBack: true }]);
    expect(
      staff.threads.map(({ staffOnly, comments }) => [staffOnly, comments[0]?.keptBack]),
    ).toEqual([
      [false, true],
      [true, false],
    ]);
    expect(await readMailbox(app.db, student)).toEqual(
      (await readMailbox(app.db, student)).filter(
        ({ subject }) => !/comment|proposal/i.test(subject),
      ),
    );
    // A student who guesses its name is not told that there is something.
    const theirs = await toComment(app, { page, person: student });
    for (const { id } of staff.threads)
      await expect(addComment(app, theirs, id, { kind: 'said', text: 'What?' })).rejects.toThrow(
        'does not exist',
      );
    await expect(
      beginThread(app, theirs, { text: 'For later', anchor: null, keptBack: true }),
    ).rejects.toThrow('at once');

    await handIn(app, await toWork(app, { page, person: student }), '');
    await handBack(app, await toMark(app, { page, person: school.teacher }), null);
    const back = await margin(true);
    expect(back.proposals).toMatchObject([{ keptBack: false, becomes: 'goes' }]);
    expect(back.threads.map(({ comments }) => comments[0]?.text)).toEqual(['See the heart of it?']);
    // What is written for the next time waits again.
    await beginThread(app, comment, { text: 'Second thoughts', anchor: null, keptBack: true });
    expect((await margin(true)).threads).toHaveLength(1);
  });

  it('is an answer, too: the thread is there without it', async () => {
    const { school, page, student, margin } = await setUp();
    const { app } = test;
    const theirs = await toComment(app, { page, person: student });
    await beginThread(app, theirs, { text: 'Is that right?', anchor: null });
    const [thread] = (await margin()).threads;
    const comment = await toComment(app, { page, person: school.teacher });
    await addComment(app, comment, thread?.id ?? '', {
      kind: 'said',
      text: 'Nearly.',
      keptBack: true,
    });
    const texts = async (isStudent: boolean) =>
      (await margin(isStudent)).threads[0]?.comments.map(({ text }) => text);
    expect(await texts(true)).toEqual(['Is that right?']);
    expect(await texts(false)).toEqual(['Is that right?', 'Nearly.']);
  });
});
