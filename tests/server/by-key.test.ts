import { beforeEach, describe, expect, it } from 'vitest';
import { stateOf } from '../../src/lib/core/copy/state';
import type { HandOutSpec } from '../../src/lib/core/handout/spec';
import type { AnswerKey } from '../../src/lib/core/marking/answer-key';
import { Fragment, Slice } from 'prosemirror-model';
import { AttrStep, ReplaceStep, type Step } from 'prosemirror-transform';
import { asStudentSees } from '../../src/lib/core/copy/copy-row';
import { schema } from '../../src/lib/core/page/schema';
import { readCopy } from '../../src/lib/server/copy/facts';
import { checkAgain } from '../../src/lib/server/copy/check-again';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened, takeBack } from '../../src/lib/server/copy/moves';
import { viewOwnCopy } from '../../src/lib/server/copy/view-copy';
import { readRecord } from '../../src/lib/server/copy/open-copy';
import { readFeedback } from '../../src/lib/server/copy/scorings';
import { useApp } from '../support/app';
import { setKeyAs } from '../support/deeds';
import { toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let student: string;
let original: string;
let copies: string[];
let assignment: string;
let copy: string;

const KEYS: Record<string, AnswerKey> = {
  short: { kind: 'short', accepted: ['spring tide', 'a spring tide'] },
  number: { kind: 'number', value: '2.6', tolerance: '0.1', unit: 'm' },
  choice: { kind: 'choice', right: ['choice-0'] },
};
const given = (points: string) => ({ points, reason: 'As we said in class.' });
const setKey = (part: string, key: AnswerKey) =>
  setKeyAs(test.app, { school: school.id, page: original, part }, key);

async function setUp(marking: HandOutSpec['marking']) {
  school = await makeSchool(test.app, 3);
  const assigned = await assign(test.app, school, { points: '10', marking });
  ({ copies, assignment } = assigned);
  [copy = ''] = copies;
  [student = ''] = school.students;
  const { source_id } = await test.app.db
    .selectFrom('page')
    .select('source_id')
    .where('id', '=', copy)
    .executeTakeFirstOrThrow();
  original = source_id ?? '';
  for (const [part, key] of Object.entries(KEYS)) await setKey(part, key);
  await opened(test.app, await toSee(test.app, { page: copy, person: student }));
}
const insert = (at: number, text: string) =>
  new ReplaceStep(at, at, new Slice(Fragment.from(schema.text(text)), 0, 0));
let sent = 0;
async function write(...steps: Step[]) {
  const { version } = await test.app.pages.open(copy);
  await test.app.pages.append(
    copy,
    { id: student, owner: true },
    {
      base: version,
      client: `client-${school.id}-${sent++}`,
      first: 1,
      lost: [],
      steps: steps.map((step) => step.toJSON()),
    },
  );
}
/** Chooses the first option. */
async function choose() {
  const { doc } = await test.app.pages.open(copy);
  doc.descendants((node, pos) => {
    if (node.attrs.id === 'choice-0') option = pos;
  });
  await write(new AttrStep(option, 'chosen', true));
}
let option = -1;
/** The number in centimetres, and the text in other letters. */
const answer = () => write(insert(PLACES.number, '255 cm'), insert(PLACES.short, 'Spring  TIDE'));
const hand = async () =>
  handIn(test.app, await toWork(test.app, { page: copy, person: student }), '');
const standing = () => readCopy(test.app.db, copy, school.teacher);
const mark = () => toMark(test.app, { page: copy, person: school.teacher });
const verdicts = async () =>
  Object.fromEntries(
    (
      (await readRecord(test.app, copy)).findLast(({ checked }) => checked)?.checked?.parts ?? []
    ).map(({ id, verdict, given: own }) => [
      id,
      own ? (own.points === '0' ? 'wrong' : 'right') : verdict,
    ]),
  );

describe('a test that marks itself', () => {
  beforeEach(() => setUp('by key'));

  it('is marked once it is handed in: each part with a key counts the same, and what has none does not', async () => {
    await answer();
    expect((await standing()).points).toBeNull();
    await hand();
    const { points, facts } = await standing();
    // Two of three, of ten points, half up in two places.
    expect([points, stateOf(facts)]).toEqual(['6.67', 'marked']);
    expect(await verdicts()).toEqual({ short: 'right', number: 'right', choice: 'no answer' });
  });

  it('says nothing of it to its student until a teacher hands it back, and never the keys', async () => {
    await answer();
    await hand();
    const own = async () =>
      viewOwnCopy(test.app, await toSee(test.app, { page: copy, person: student }));
    const before = JSON.stringify(await own());
    expect(before).not.toContain('verdict');
    expect(before).not.toContain('6.67');
    expect(asStudentSees(await standing(), student)).toMatchObject({ points: null, score: null });
    await handBack(test.app, await mark(), null);
    const after = JSON.stringify(await own());
    expect(after).toContain('"verdict":"right"');
    expect(after).not.toContain('a spring tide');
  });

  it('is overruled part by part, or by points; a revision is checked anew', async () => {
    await answer();
    await hand();
    await score(test.app, await mark(), {
      given: { parts: { choice: given('1'), short: given('0') } },
    });
    expect((await standing()).points).toBe('6.67');
    expect(await verdicts()).toEqual({ short: 'wrong', number: 'right', choice: 'right' });
    await score(test.app, await mark(), { given: { parts: { choice: given('1') } } });
    expect((await standing()).points).toBe('10');
    await score(test.app, await mark(), { given: { points: '3' } });
    expect((await standing()).points).toBe('3.00');
    await handBack(test.app, await mark(), null);
    await choose();
    await hand();
    const { points, pointsBack } = await standing();
    expect([points, pointsBack]).toEqual(['10', '3.00']);
  });

  it('is checked again when its keys change; what was decided stays, what was scored by hand is not touched', async () => {
    await answer();
    await hand();
    await score(test.app, await mark(), { given: { parts: { choice: given('1') } } });
    const [, second = ''] = copies;
    const other = { page: second, person: school.students[1] ?? '' };
    await opened(test.app, await toSee(test.app, other));
    await handIn(test.app, await toWork(test.app, other), '');
    await score(test.app, await toMark(test.app, { page: second, person: school.teacher }), {
      given: { points: '1' },
    });
    await setKey('short', { kind: 'short', accepted: ['neap tide'] });
    const here = { assignment, class: school.class };
    const run = () => grantOnAssignment(test.app.db, 'run the assignment', school.teacher, here);
    expect(await checkAgain(test.app, await run())).toBe(1);
    expect(await verdicts()).toEqual({ short: 'wrong', number: 'right', choice: 'right' });
    expect((await readCopy(test.app.db, second, school.teacher)).points).toBe('1.00');
    expect(await checkAgain(test.app, await run())).toBe(0);
  });

  it('is not taken back once it has marked itself', async () => {
    await answer();
    await hand();
    const own = await toWork(test.app, { page: copy, person: student });
    await expect(takeBack(test.app, own)).rejects.toThrow('It marked itself when you handed it in');
  });
});

describe('a test that marks itself and is handed back at once', () => {
  beforeEach(() => setUp('by key, handed back'));

  it('is back with what each part came to, in the same moment', async () => {
    await answer();
    await hand();
    const { points, pointsBack, facts } = await standing();
    expect([points, pointsBack, stateOf(facts)]).toEqual(['6.67', '6.67', 'handed back']);
    const feedback = await readFeedback(test.app.db, copy);
    expect(feedback?.checked?.parts.map(({ answer: said, verdict }) => [said, verdict])).toEqual([
      ['Spring  TIDE', 'right'],
      ['255 cm', 'right'],
      ['', 'no answer'],
    ]);
    const row = await test.app.db
      .selectFrom('page')
      .select('with_teacher')
      .where('id', '=', copy)
      .executeTakeFirstOrThrow();
    expect(row.with_teacher).toBe(false);
  });

  it('is handed in once of twenty at once, and checked once', async () => {
    await answer();
    const tries = await Promise.allSettled(Array.from({ length: 20 }, hand));
    // What is back may be handed in again: each hand-in has its check.
    const done = tries.filter(({ status }) => status === 'fulfilled').length;
    const record = await readRecord(test.app, copy);
    const count = (what: string) => record.filter((entry) => entry.what === what).length;
    expect(count('handed in')).toBe(done);
    expect(count('checked by the answer keys')).toBe(done);
    expect(count('handed back')).toBe(done);
  });

  it('is with the teacher where no part has a key', async () => {
    await test.app.db.deleteFrom('answer_key').where('page_id', '=', original).execute();
    await answer();
    await hand();
    expect(stateOf((await standing()).facts)).toBe('handed in');
  });
});
