import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { stateOf } from '../../src/lib/core/copy/state';
import { asStudentSees } from '../../src/lib/core/copy/copy-row';
import type { AnswerKey } from '../../src/lib/core/marking/answer-key';
import { schema } from '../../src/lib/core/page/schema';
import { saidOn } from '../../src/lib/core/marking/said-on-piles';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { acceptAnswer, previewAccept } from '../../src/lib/server/copy/accept-answer';
import { checkAgain, previewCheckAgain } from '../../src/lib/server/copy/check-again';
import { commentPart, uncommentPart } from '../../src/lib/server/copy/comment-part';
import { readCopy } from '../../src/lib/server/copy/facts';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { viewPiles } from '../../src/lib/server/copy/part-piles';
import { readFeedback } from '../../src/lib/server/copy/scorings';
import { setApart } from '../../src/lib/server/copy/piles-apart';
import { scorePart } from '../../src/lib/server/copy/score-part';
import { addComment, readOpenMargin } from '../../src/lib/server/copy/threads';
import { useApp } from '../support/app';
import { setKeyAs } from '../support/deeds';
import { toComment, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assignment: string;
let copies: string[];
let original: string;

const setKey = (part: string, key: AnswerKey) =>
  setKeyAs(test.app, { school: school.id, page: original, part }, key);
const at = () => ({ assignment, class: school.class });
const marking = (person = school.teacher) =>
  grantOnAssignment(test.app.db, 'mark its copies', person, at());
const piles = async (part = 'short') =>
  viewPiles(test.app, await marking(), { page: null, part, all: false });
const standing = (index: number) => readCopy(test.app.db, copies[index] ?? '', school.teacher);
const give = async (
  scores: readonly (readonly [copy: number, was: string | null, points: string | null])[],
  { reason = '', part = 'short', person = school.teacher } = {},
) =>
  scorePart(test.app, await marking(person), {
    part,
    scores: scores.map(([copy, was, points]) => ({
      copy: copies[copy] ?? '',
      was,
      given: points === null ? null : { points, reason },
    })),
  });

async function hand(index: number, text: string) {
  const whose = { page: copies[index] ?? '', person: school.students[index] ?? '' };
  await opened(test.app, await toSee(test.app, whose));
  const { person } = whose;
  if (text)
    await test.app.pages.append(
      whose.page,
      { id: person, owner: true },
      {
        base: 0,
        client: `writer of ${index}`,
        first: 1,
        lost: [],
        steps: [
          new ReplaceStep(
            PLACES.short,
            PLACES.short,
            new Slice(Fragment.from(schema.text(text)), 0, 0),
          ).toJSON(),
        ],
      },
    );
  await handIn(test.app, await toWork(test.app, whose), '');
}

beforeEach(async () => {
  school = await makeSchool(test.app, 5);
  const assigned = await assign(test.app, school, { points: '10' });
  ({ assignment, copies } = assigned);
  const { source_id } = await test.app.db
    .selectFrom('page')
    .select('source_id')
    .where('id', '=', copies[0] ?? '')
    .executeTakeFirstOrThrow();
  original = source_id ?? '';
  await setKey('short', { kind: 'by hand', points: '2' });
  await setKey('choice', { kind: 'choice', right: ['choice-0'] });
  for (const [index, text] of ['Spring tide', 'spring  tide', 'a big tide', ''].entries())
    await hand(index, text);
});

describe('part by part', () => {
  it('lays equal answers together, and says what is left to score', async () => {
    const view = await piles();
    expect(view.piles.map(({ answer, answers }) => [answer, answers.length])).toEqual([
      ['Spring tide', 2],
      ['a big tide', 1],
    ]);
    expect(view.blank).toHaveLength(1);
    expect(view.parts.map(({ id, most, left }) => [id, most, left])).toEqual([
      ['short', '2', 4],
      ['number', null, 0],
      ['choice', '1', 0],
      ['writing', null, 0],
    ]);
    // Who has not handed in is in no pile.
    expect(view.piles.flatMap((pile) => pile.answers).map(({ copy }) => copy)).not.toContain(
      copies[4],
    );
  });

  it('scores a pile at once; a copy comes to points when no part is left, and its student hears nothing yet', async () => {
    const { before, meanwhile } = await give([
      [0, null, '2'],
      [1, null, '2'],
      [2, null, '1.5'],
    ]);
    expect([before.length, meanwhile]).toEqual([3, 0]);
    // The choice is not answered: two of three points, of ten.
    const row = await standing(0);
    expect([row.points, stateOf(row.facts)]).toEqual(['6.67', 'marked']);
    expect(asStudentSees(row, school.students[0] ?? '').points).toBeNull();
    expect(await readFeedback(test.app.db, copies[0] ?? '')).toBeNull();
    expect((await standing(2)).points).toBe('5');
    expect((await standing(3)).points).toBeNull();
    expect((await piles()).parts[0]).toMatchObject({ left: 1, reached: (2 + 2 + 1.5) / 6 });
    // Undone, it is as before.
    await give(before.map(({ copy, now }) => [copies.indexOf(copy), now, null]));
    expect((await standing(0)).points).toBeNull();
    expect(stateOf((await standing(0)).facts)).toBe('handed in');
  });

  it('leaves alone what somebody else scored meanwhile, and what has points as a whole', async () => {
    await give([[0, null, '1']], { person: school.marker });
    await score(
      test.app,
      await toMark(test.app, { page: copies[2] ?? '', person: school.teacher }),
      {
        given: { points: '7' },
      },
    );
    const result = await give([
      [0, null, '2'],
      [1, null, '2'],
      [2, null, '2'],
    ]);
    expect(result).toMatchObject({ meanwhile: 1, otherwise: 1 });
    expect(result.before.map(({ copy }) => copy)).toEqual([copies[1]]);
    expect((await standing(2)).points).toBe('7.00');
    const at0 = (await piles()).piles
      .flatMap((pile) => pile.answers)
      .find(({ copy }) => copy === copies[0]);
    expect(at0?.points).toBe('1');
  });

  it('is scored once by twenty at once', async () => {
    const tries = await Promise.all(
      Array.from({ length: 20 }, () =>
        give([
          [0, null, '2'],
          [1, null, '1'],
        ]),
      ),
    );
    expect(tries.filter(({ before }) => before.length === 2)).toHaveLength(1);
    expect(tries.filter(({ meanwhile }) => meanwhile === 2)).toHaveLength(19);
    const { count } = await test.app.db
      .selectFrom('score')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('page_id', 'in', copies)
      .executeTakeFirstOrThrow();
    expect(Number(count)).toBe(2);
  });

  it('asks for a reason against a key, and refuses a part that counts nothing', async () => {
    await expect(give([[0, '0', '1']], { part: 'choice' })).rejects.toThrow(
      'Please say why part 3',
    );
    await give([[0, '0', '1']], { part: 'choice', reason: 'Said aloud.' });
    await give([[0, null, '2']]);
    expect((await standing(0)).points).toBe('10');
    await expect(give([[0, null, '1']], { part: 'writing' })).rejects.toThrow('counts no points');
  });

  it('gives no more than a part counts for, and nothing to an answer that came later', async () => {
    await expect(give([[0, null, '3']])).rejects.toThrow('Part 1 counts for 2 points');
    await give([[0, null, '2']]);
    await handBack(
      test.app,
      await toMark(test.app, { page: copies[0] ?? '', person: school.teacher }),
      null,
    );
    const whose = { page: copies[0] ?? '', person: school.students[0] ?? '' };
    await handIn(test.app, await toWork(test.app, whose), '');
    const [answer] = (await piles()).piles
      .flatMap((pile) => pile.answers)
      .filter(({ copy }) => copy === whose.page);
    expect(answer?.points).toBeNull();
    await give([[0, null, '1']]);
    expect((await standing(0)).points).toBe('3.33');
  });

  it('is for who marks: nobody else scores, and nothing of another assignment', async () => {
    await expect(marking(school.students[0])).rejects.toThrow();
    await expect(marking(school.stranger)).rejects.toThrow();
    const other = await assign(test.app, school, { points: '10' });
    const grant = await marking();
    const [foreign = ''] = other.copies;
    const scores = [{ copy: foreign, was: null, given: { points: '2', reason: '' } }];
    expect(await scorePart(test.app, grant, { part: 'short', scores })).toMatchObject({
      before: [],
    });
    await expect(
      commentPart(test.app, grant, {
        part: 'short',
        copies: [foreign],
        text: 'x',
        keptBack: false,
      }),
    ).rejects.toThrow('not there any more');
    await expect(
      setApart(test.app, grant, { copy: foreign, part: 'short', apart: true }),
    ).rejects.toThrow('no such copy');
  });

  it('takes one out of its pile and puts it back', async () => {
    const sizes = async () => (await piles()).piles.map((pile) => pile.answers.length);
    const move = async (apart: boolean) =>
      setApart(test.app, await marking(), { copy: copies[0] ?? '', part: 'short', apart });
    await move(true);
    await move(true);
    expect(await sizes()).toEqual([1, 1, 1]);
    await move(false);
    expect(await sizes()).toEqual([2, 1]);
  });

  it('comments on a pile, each on its answer and with its student’s name', async () => {
    const said = {
      part: 'short',
      copies: copies.slice(0, 2),
      text: '{name}, which tide?',
      keptBack: true,
    };
    const done = await commentPart(test.app, await marking(), said);
    expect(done.said.map(({ copy }) => copy).sort()).toEqual([...said.copies].sort());
    expect(done.left).toBe(0);
    const read = async (person: string) =>
      (await readOpenMargin(test.app, await toMark(test.app, { page: copies[0] ?? '', person })))
        .threads;
    const [thread] = await read(school.teacher);
    expect(thread?.comments.map(({ text }) => text)).toEqual(['student1, which tide?']);
    expect(thread?.quote).toBe('Spring tide');
    const own = await toWork(test.app, { page: copies[0] ?? '', person: school.students[0] ?? '' });
    expect((await readOpenMargin(test.app, own)).threads).toEqual([]);
    // It is seen on its pile, in the words that were typed.
    const { text, part } = said;
    const seen = async (asked: string) =>
      (await piles(asked)).piles.map((pile) => saidOn(pile.answers));
    expect(await seen(part)).toEqual([[{ text, keptBack: true, answers: 2 }], []]);
    expect((await seen('choice')).flat()).toEqual([]);
    // It is undone, and what has gone out meanwhile stays said.
    const second = { page: copies[1] ?? '', person: school.teacher };
    await handBack(test.app, await toMark(test.app, second), null);
    const undo = { said: done.said, keptBack: true };
    expect(new Set((await seen(part))[0])).toEqual(
      new Set([
        { text, keptBack: true, answers: 1 },
        { text, keptBack: false, answers: 1 },
      ]),
    );
    expect(await uncommentPart(test.app, await marking(), undo)).toEqual({ left: 1 });
    expect(await read(school.teacher)).toEqual([]);
    expect((await seen(part))[0]).toEqual([{ text, keptBack: false, answers: 1 }]);
    await expect(
      marking(school.stranger).then((grant) => uncommentPart(test.app, grant, undo)),
    ).rejects.toThrow();
  });

  it('undoes a comment that its students have by settling it', async () => {
    const said = { part: 'short', copies: copies.slice(0, 2), text: 'Which?', keptBack: false };
    const done = await commentPart(test.app, await marking(), said);
    const read = async () => {
      const own = { page: copies[0] ?? '', person: school.students[0] ?? '' };
      return (await readOpenMargin(test.app, await toWork(test.app, own))).threads;
    };
    expect(await read()).toMatchObject([{ settled: false }]);
    // One whose student answers it meanwhile stays open.
    const second = { page: copies[1] ?? '', person: school.students[1] ?? '' };
    const answer = { kind: 'said', text: 'The first' } as const;
    await addComment(
      test.app,
      await toComment(test.app, second),
      done.said.find(({ copy }) => copy === second.page)?.thread ?? '',
      answer,
    );
    const undo = { said: done.said, keptBack: false };
    expect(await uncommentPart(test.app, await marking(), undo)).toEqual({ left: 1 });
    expect(await read()).toMatchObject([{ settled: true }]);
    // What is settled has left its pile.
    expect((await piles()).piles.flatMap((pile) => saidOn(pile.answers))).toEqual([
      { text: 'Which?', keptBack: false, answers: 1 },
    ]);
    const others = await readOpenMargin(test.app, await toWork(test.app, second));
    expect(others.threads).toMatchObject([{ settled: false }]);
  });
});

describe('an answer that is accepted', () => {
  const asked = () => ({ page: original, part: 'short', answers: ['Spring tide'] });

  it('shows who gains before, joins the key, and tells a student only when their copy goes back again', async () => {
    await setKey('short', { kind: 'short', accepted: ['springs'], points: '2' });
    const grant = await marking();
    expect(await checkAgain(test.app, grant)).toBe(0);
    for (const index of [0, 2]) await give([[index, '0', null]]);
    await handBack(
      test.app,
      await toMark(test.app, { page: copies[0] ?? '', person: school.teacher }),
      null,
    );
    expect((await standing(0)).pointsBack).toBe('0');
    const changes = await previewAccept(test.app, grant, asked());
    expect(
      changes.map(({ copy, was, now, isBack }) => [copy, was?.points, now.points, isBack]),
    ).toEqual([[copies[0], '0', '2', true]]);
    expect((await piles()).key).toMatchObject({ accepted: ['springs'] });
    expect(await acceptAnswer(test.app, grant, asked())).toBe(1);
    expect((await piles()).key).toMatchObject({ accepted: ['springs', 'Spring tide'] });
    const { points, pointsBack } = await standing(0);
    expect([points, pointsBack]).toEqual(['6.67', '0']);
    expect((await piles()).behind.map(({ id }) => id)).toEqual([copies[0]]);
    await handBack(
      test.app,
      await toMark(test.app, { page: copies[0] ?? '', person: school.teacher }),
      null,
    );
    expect((await piles()).behind).toEqual([]);
    expect((await standing(0)).pointsBack).toBe('6.67');
  });

  it('is kept, each of twenty that are accepted at once', async () => {
    await setKey('short', { kind: 'short', accepted: ['springs'] });
    const grant = await marking();
    await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        acceptAnswer(test.app, grant, { ...asked(), answers: [`answer ${n}`] }),
      ),
    );
    const { key } = await piles();
    expect(key?.kind === 'short' && key.accepted).toHaveLength(21);
  });

  it('is for who may change the page of the key, and not for its choices', async () => {
    const marker = await marking(school.marker);
    expect(await previewAccept(test.app, marker, asked())).toEqual([]);
    await expect(acceptAnswer(test.app, marker, asked())).rejects.toThrow();
    const choice = { ...asked(), part: 'choice' };
    await expect(previewAccept(test.app, marker, choice)).rejects.toThrow('change the key');
    expect((await piles()).key).toMatchObject({ kind: 'by hand' });
  });

  it('leaves what a person gave a part, when all is checked again', async () => {
    await give([[0, null, '1']]);
    await setKey('short', {
      kind: 'short',
      accepted: ['spring tide'],
      points: '4',
      othersByHand: true,
    });
    const changes = await previewCheckAgain(test.app, await marking());
    expect(changes.map(({ now }) => [now.points, now.most, now.left])).toEqual([['1', '5', 0]]);
    expect(await checkAgain(test.app, await marking())).toBe(1);
    expect((await standing(0)).points).toBe('2');
  });
});
