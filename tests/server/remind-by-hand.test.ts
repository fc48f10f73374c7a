import { beforeAll, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { readReminded, remindByHand } from '../../src/lib/server/handout/remind-by-hand';
import { readMailbox } from '../../src/lib/server/message/messages';
import { useApp } from '../support/app';
import { allowAs, copyOf, handOutAs } from '../support/deeds';
import { inClass, newPage, toSee, toWork } from '../support/grants';
import { makeSchool, questionPage, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assignment = '';
/** A Tuesday noon. */
const NOW = Date.parse('2026-11-10T12:00:00Z');
const DAY = 86_400_000;

beforeAll(async () => {
  school = await makeSchool(test.app, 4);
  const page = await newPage(
    test.app.db,
    { in: { kind: 'original', course: school.course }, title: 'Tide', at: new Date() },
    questionPage(),
  );
  assignment = crypto.randomUUID();
  const spec = plainSpec(page, school.class, {
    title: 'Tide',
    due: { kind: 'at', local: '2026-11-09T10:50' },
  });
  await handOutAs(test.app, {
    id: assignment,
    spec,
    by: school.teacher,
    at: new Date(NOW - 5 * DAY),
  });
});

const cellOf = async (student: string) => ({
  copy: await copyOf(test.app, assignment, student),
  student,
});
const cells = () => Promise.all(school.students.map(cellOf));
const remind = async (now: number, words = '') =>
  remindByHand(
    test.app,
    await inClass(test.app.db, school.class),
    { cells: await cells(), words },
    now,
  );
const remindersOf = async (student: string) =>
  (await readMailbox(test.app.db, student)).filter(({ subject }) =>
    subject.startsWith('A reminder'),
  );

describe('reminding by hand', () => {
  it('reaches who still has to hand it in, each once a day though many ask at once', async () => {
    const [one = '', two = '', three = '', four = ''] = school.students;
    const first = await cellOf(one);
    await opened(test.app, await toSee(test.app, { page: first.copy, person: one }));
    await handIn(test.app, await toWork(test.app, { page: first.copy, person: one }), '');
    await allowAs(test.app, {
      by: school.teacher,
      assignment,
      class: school.class,
      student: two,
      kind: 'excused',
      due: null,
      note: '',
      at: new Date(),
    });
    const told = await Promise.all(Array.from({ length: 20 }, () => remind(NOW, 'A line.')));
    expect(told.reduce((sum, n) => sum + n)).toBe(2);
    expect([await remindersOf(one), await remindersOf(two)]).toEqual([[], []]);
    expect((await remindersOf(three)).map(({ text }) => text)).toEqual([
      expect.stringMatching(/It was due Monday 9 November, 10:50\. “A line\.”$/),
    ]);
    const grant = await inClass(test.app.db, school.class);
    expect(
      (await readReminded(test.app.db, grant, NOW)).map(({ student }) => student).sort(),
    ).toEqual([three, four].sort());
    // The school's next day begins at its midnight.
    expect(await readReminded(test.app.db, grant, NOW + DAY)).toEqual([]);
    expect(await remind(NOW + DAY)).toBe(2);
    expect(await remindersOf(four)).toHaveLength(2);
  });

  it('does not reach whoever does not have that copy, nor anybody of a class that is closed', async () => {
    const [one = '', , three = '', four = ''] = school.students;
    const grant = await inClass(test.app.db, school.class);
    const { copy } = await cellOf(three);
    const later = NOW + 3 * DAY;
    const others = [one, four, school.teacher].map((student) => ({ copy, student }));
    expect(await remindByHand(test.app, grant, { cells: others, words: '' }, later)).toBe(0);
    const set = (opened_at: Date | null) =>
      test.app.db.updateTable('class').set({ opened_at }).where('id', '=', school.class).execute();
    await set(null);
    await expect(remind(later)).rejects.toThrow(/is closed: its students see nothing of it yet/);
    await set(new Date(NOW - 30 * DAY));
    expect(await remind(later)).toBe(2);
  });
});
