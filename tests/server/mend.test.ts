import { Fragment, Slice } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { CAUSES, gapKey, type Gap } from '../../src/lib/core/headcount/gap';
import { remediesOf, type Deed } from '../../src/lib/core/headcount/remedy';
import { schema } from '../../src/lib/core/page/schema';
import { textOf } from '../../src/lib/core/page/parts';
import { grantInClass, grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { readCopy } from '../../src/lib/server/copy/facts';
import { beginOwnPage } from '../../src/lib/server/copy/own-pages';
import { mendGaps, readGaps, undoMending, type Mended } from '../../src/lib/server/headcount/mend';
import { removeCopies } from '../../src/lib/server/headcount/remove-copies';
import { rebuildKept } from '../../src/lib/server/page/rebuild-kept';
import { readMailbox } from '../../src/lib/server/message/messages';
import { recordMove } from '../../src/lib/server/copy/record-move';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
beforeEach(async () => {
  school = await makeSchool(test.app, 6);
});

const manage = (by = school.teacher) =>
  grantInClass(test.app.db, 'manage the class', by, school.class);
const gaps = async () => readGaps(test.app, await manage());
const mend = async (chosen: readonly { gap: Gap; deed: Deed }[]) =>
  mendGaps(
    test.app,
    await manage(),
    chosen.map(({ gap, deed }) => ({ gap: gapKey(gap), deed })),
  );
const undo = async ({ undo: all }: Mended) => undoMending(test.app, await manage(), all);
const says = (all: readonly Gap[]) => all.map(({ cause, students }) => [cause, ...students]);

let clients = 0;
interface Typed {
  owner?: boolean;
  pasted?: boolean;
}
async function type(
  page: string,
  by: string,
  change: (page: Transform) => Transform,
  { owner = true, pasted = false }: Typed = {},
) {
  const { doc, version } = await test.app.pages.open(page);
  await test.app.pages.append(
    page,
    { id: by, owner },
    {
      base: version,
      client: `mend-${++clients}`,
      first: 1,
      lost: [],
      steps: change(new Transform(doc)).steps.map((step) => ({
        ...(step.toJSON() as object),
        ...(pasted && { pasted: true }),
      })) as never,
    },
  );
}
const words = (n: number, of = 'word') =>
  Array.from({ length: n }, (_, i) => `${of}${i}`).join(' ');
const LONG = words(40);
const at = PLACES.writing;
const write = (copy: string, by: string, text = LONG) =>
  type(copy, by, (page) => page.insert(at, schema.text(text)));
const empty = (copy: string, by: string, length = LONG.length) =>
  type(copy, by, (page) => page.delete(at, at + length));
const textIn = async (page: string) => textOf((await test.app.pages.open(page)).doc);

/** A page that says of itself what it is about, with a place for writing below. */
const about = (what: string) =>
  schema.nodes.doc.create(null, [
    schema.nodes.paragraph.create(
      null,
      schema.text(
        `${what}: look at it from the end of the mole, and say what a skipper has to know.`,
      ),
    ),
    schema.nodes.paragraph.create(
      null,
      schema.text(`Give each of the three ${what} a name, and tell why it bears that one.`),
    ),
    schema.nodes.answer_writing.create(
      { id: `w-${what}`.slice(0, 30) },
      schema.nodes.paragraph.create(),
    ),
  ]);
const carry = (what: string, words: string) => {
  const page = about(what);
  const [first, second] = page.children;
  return Fragment.from([
    ...[first, second].filter((one) => one !== undefined),
    schema.nodes.paragraph.create(null, schema.text(words)),
  ]);
};

describe('a gap', () => {
  it('is mended by making or bringing back the copy, and opened again by undoing it', async () => {
    const { assignment, copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    const run = await grantOnAssignment(test.app.db, 'run the assignment', school.teacher, {
      assignment,
      class: school.class,
    });
    await removeCopies(test.app, run, { copies: [copy], places: [] }, new Date());
    const before = await gaps();
    expect(before.map(({ cause }) => cause)).toEqual(['removed']);
    const done = await mend(before.map((gap) => ({ gap, deed: 'give' })));
    expect(done).toMatchObject({ mended: 1, refused: [] });
    expect(await gaps()).toEqual([]);
    await undo(done);
    expect((await gaps()).map(({ cause }) => cause)).toEqual(['removed']);
    // Somebody meant it.
    const accepted = await mend((await gaps()).map((gap) => ({ gap, deed: 'accept' })));
    expect(await gaps()).toEqual([]);
    await undo(accepted);
    expect(await gaps()).toHaveLength(1);
  });

  it('is put back to before the loss, with what was written since, and its student is told', async () => {
    const { copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    const [student = ''] = school.students;
    await write(copy, student);
    await empty(copy, student);
    await write(copy, student, 'and this came after');
    const [gap] = await gaps();
    expect(gap).toMatchObject({ cause: 'emptied', loss: { words: 40, left: 0, version: 1 } });
    if (!gap) return;
    const done = await mend([{ gap, deed: 'put back' }]);
    expect(done.refused).toEqual([]);
    const text = await textIn(copy);
    expect(text).toContain('word39');
    expect(text).toContain('and this came after');
    expect(await gaps()).toEqual([]);
    const told = await readMailbox(test.app.db, student);
    expect(told.some(({ subject }) => subject.startsWith('Put back as it stood'))).toBe(true);
    // What is kept for speed is what the log tells.
    const level = () =>
      test.app.db
        .selectFrom('page')
        .select('level')
        .where('id', '=', copy)
        .executeTakeFirstOrThrow();
    const kept = await level();
    await rebuildKept(test.app.db);
    expect(await level()).toEqual(kept);
    await undo(done);
    const again = await gaps();
    expect(again.map(({ cause }) => cause)).toEqual(['emptied']);
    expect(await textIn(copy)).toContain('and this came after');
    const accepted = await mend(again.map((one) => ({ gap: one, deed: 'accept' })));
    expect(await gaps()).toEqual([]);
    await undo(accepted);
    expect(await gaps()).toHaveLength(1);
    // Accepted, and emptied once more: a gap once more.
    await mend(again.map((one) => ({ gap: one, deed: 'accept' })));
    await write(copy, student);
    await empty(copy, student);
    expect(await gaps()).toHaveLength(1);
  });

  it('is told as pasted over where a paste took the place of what stood', async () => {
    const { copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    const [student = ''] = school.students;
    await write(copy, student);
    await type(
      copy,
      student,
      (page) =>
        page.replace(
          at,
          at + LONG.length,
          new Slice(Fragment.from(schema.text(words(50, 'paste'))), 0, 0),
        ),
      { pasted: true },
    );
    const [gap] = await gaps();
    expect(gap).toMatchObject({ cause: 'pasted over', loss: { words: 40, pasted: 50 } });
    const kept = await test.app.db
      .selectFrom('page')
      .select(['id', 'level'])
      .orderBy('id')
      .execute();
    await rebuildKept(test.app.db);
    expect(
      await test.app.db.selectFrom('page').select(['id', 'level']).orderBy('id').execute(),
    ).toEqual(kept);
    if (gap) await mend([{ gap, deed: 'put back' }]);
    expect(await gaps()).toEqual([]);
    expect(await textIn(copy)).toContain('word39');
    expect(await textIn(copy)).toContain('paste49');
  });

  it('is no gap of who is excused, until that is undone', async () => {
    const { assignment } = await assign(test.app, school);
    const joined = school.students[5] ?? '';
    await test.app.db
      .updateTable('page')
      .set({ away_at: new Date() })
      .where('student_id', '=', joined)
      .execute();
    await test.app.db.deleteFrom('page').where('student_id', '=', joined).execute();
    const [gap] = await gaps();
    expect(gap).toMatchObject({ cause: 'never made', students: [joined], assignment });
    if (!gap) return;
    const done = await mend([{ gap, deed: 'excuse' }]);
    expect(await gaps()).toEqual([]);
    await undo(done);
    expect(says(await gaps())).toEqual([['never made', joined]]);
  });

  it('is left by who is gone with work open, until it is accepted or handed back', async () => {
    const { copies } = await assign(test.app, school);
    const [first = '', second = ''] = copies;
    const [one = '', two = '', three = ''] = school.students;
    await write(first, one);
    await write(second, two);
    await test.app.db
      .updateTable('enrolment')
      .set({ left_at: new Date() })
      .where('person_id', 'in', [one, two, three])
      .execute();
    // The third wrote nothing.
    expect(says(await gaps()).sort()).toEqual(
      [
        ['left', one],
        ['left', two],
      ].sort(),
    );
    await recordMove(test.app, { page: first, person: school.teacher }, () => ['handed back']);
    const [gap] = await gaps();
    expect(gap).toMatchObject({ cause: 'left', students: [two], words: expect.any(Number) });
    if (!gap) return;
    const done = await mend([{ gap, deed: 'accept' }]);
    expect(await gaps()).toEqual([]);
    await undo(done);
    expect(await gaps()).toHaveLength(1);
  });
});

describe('work that was written elsewhere', () => {
  async function twoAssignments() {
    const harbour = await assign(test.app, school, {
      title: 'Harbours',
      page: about('harbours'),
      guarded: false,
    });
    const beach = await assign(test.app, school, {
      title: 'Beaches',
      page: about('beaches'),
      guarded: false,
    });
    const [student = ''] = school.students;
    return {
      harbour,
      beach,
      student,
      blank: harbour.copies[0] ?? '',
      other: beach.copies[0] ?? '',
    };
  }
  const end = async (page: string) => (await test.app.pages.open(page)).doc.content.size;

  it('is moved from the copy of another assignment, with its history and its hand-in', async () => {
    const { student, blank, other, harbour, beach } = await twoAssignments();
    const place = await end(other);
    await type(other, student, (page) =>
      page.insert(place, carry('harbours', 'The mole is called after the wind that it keeps out.')),
    );
    expect((await gaps()).map(({ cause }) => cause)).toEqual(['worked elsewhere']);
    await recordMove(test.app, { page: other, person: student }, () => ['handed in']);
    const [gap] = await gaps();
    expect(gap).toMatchObject({
      cause: 'wrong assignment',
      copy: blank,
      elsewhere: { page: other, title: 'Beaches', assignment: beach.assignment, hasOwnWork: false },
    });
    if (!gap) return;
    const log = await test.app.pages.open(other);
    const done = await mend([{ gap, deed: 'move' }]);
    expect(done.refused).toEqual([]);
    const row = await readCopy(test.app.db, other, school.teacher);
    expect(row).toMatchObject({ assignment: harbour.assignment, version: log.version });
    expect(row.facts.handedIn).not.toBeNull();
    expect(await textIn(other)).toContain('after the wind');
    expect(await gaps()).toEqual([]);
    // They have an empty copy of the other one again.
    const instead = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', beach.assignment)
      .where('student_id', '=', student)
      .where('away_at', 'is', null)
      .execute();
    expect(instead).toHaveLength(1);
    expect(instead[0]?.id).not.toBe(other);
    const told = await readMailbox(test.app.db, student);
    expect(told[0]?.subject).toBe('Moved to where it belongs: Harbours');
    // Its log is the same after a rebuild, and it can be looked back to its beginning.
    await rebuildKept(test.app.db);
    expect(await readCopy(test.app.db, other, school.teacher)).toEqual(row);
    await undo(done);
    expect(await readCopy(test.app.db, other, school.teacher)).toMatchObject({
      assignment: beach.assignment,
    });
    expect((await gaps()).map(({ cause }) => cause)).toEqual(['wrong assignment']);
  });

  it('is moved from an own page, which is a copy then, and an own page again when that is undone', async () => {
    const { student, blank, harbour } = await twoAssignments();
    const own = await beginOwnPage(
      test.app,
      await grantInClass(test.app.db, 'manage own workbook', student, school.class),
      'My harbour',
    );
    await type(own, student, (page) =>
      page.insert(0, carry('harbours', 'The crane is blue because of the rust.')),
    );
    const [gap] = await gaps();
    expect(gap).toMatchObject({
      cause: 'worked elsewhere',
      copy: blank,
      elsewhere: { page: own, assignment: null },
    });
    if (!gap) return;
    const done = await mend([{ gap, deed: 'move' }]);
    expect(done.refused).toEqual([]);
    expect(await readCopy(test.app.db, own, school.teacher)).toMatchObject({
      assignment: harbour.assignment,
      student,
    });
    expect(await gaps()).toEqual([]);
    await type(own, student, (page) => page.insert(1, schema.text('More. ')));
    await undo(done);
    const page = await test.app.db
      .selectFrom('page')
      .select(['kind', 'title', 'source_id'])
      .where('id', '=', own)
      .executeTakeFirstOrThrow();
    expect(page).toEqual({ kind: 'own page', title: 'My harbour', source_id: null });
    expect(await textIn(own)).toContain('More.');
    expect(says(await gaps())).toEqual([['worked elsewhere', student]]);
  });

  it('is cloned where the page holds other answers, too, and stays there', async () => {
    const { student, other, harbour, beach } = await twoAssignments();
    const place = await end(other);
    await type(other, student, (page) => page.insert(place - 2, schema.text('My beach is long.')));
    const now = await end(other);
    await type(other, student, (page) =>
      page.insert(now, carry('harbours', 'The slip is behind the mole.')),
    );
    const [gap] = await gaps();
    expect(gap?.elsewhere).toMatchObject({ page: other, hasOwnWork: true });
    if (!gap) return;
    const done = await mend([{ gap, deed: 'move' }]);
    expect(done.refused).toEqual([]);
    expect(await gaps()).toEqual([]);
    const rows = await test.app.db
      .selectFrom('page')
      .select(['id', 'assignment_id', 'version'])
      .where('student_id', '=', student)
      .where('away_at', 'is', null)
      .execute();
    const [moved] = rows.filter(({ assignment_id }) => assignment_id === harbour.assignment);
    const [stays] = rows.filter(({ assignment_id }) => assignment_id === beach.assignment);
    expect(stays?.id).toBe(other);
    expect(moved?.version).toBe(stays?.version);
    expect(await textIn(moved?.id ?? '')).toBe(await textIn(other));
    // They are two now: what is written on one does not come to the other.
    await type(moved?.id ?? '', student, (page) => page.insert(1, schema.text('Here. ')));
    expect(await textIn(other)).not.toContain('Here.');
    await undo(done);
    expect((await gaps()).map(({ cause }) => cause)).toEqual(['worked elsewhere']);
  });

  it('is not moved where the copy was begun meanwhile, nor twice at once', async () => {
    const { student, blank, other } = await twoAssignments();
    const place = await end(other);
    await type(other, student, (page) =>
      page.insert(place, carry('harbours', 'The mole keeps out the wind.')),
    );
    const [gap] = await gaps();
    if (!gap) return;
    const twice = await Promise.all([
      mend([{ gap, deed: 'move' }]),
      mend([{ gap, deed: 'move' }]),
      mend([{ gap, deed: 'move' }]),
    ]);
    expect(twice.map(({ mended }) => mended).sort()).toEqual([0, 0, 1]);
    const done = twice.find(({ mended }) => mended === 1);
    if (done) await undo(done);
    await expect(undo(done as Mended)).rejects.toThrow('undone before');
    await write(blank, student, 'I began');
    expect(await gaps()).toEqual([]);
    expect((await mend([{ gap, deed: 'move' }])).refused[0]?.why).toContain('closed already');
  });
});

describe('closing gaps', () => {
  it('is for who leads the class, and for its own gaps alone', async () => {
    await assign(test.app, school);
    await expect(manage(school.marker)).rejects.toThrow();
    await expect(manage(school.stranger)).rejects.toThrow();
    const done = await mendGaps(test.app, await manage(), [{ gap: 'nothing', deed: 'give' }]);
    expect(done).toMatchObject({ mended: 0, undo: [] });
    // By hand: a copy of another class.
    const other = await makeSchool(test.app, 1);
    const { copies } = await assign(test.app, other);
    const [foreign = ''] = copies;
    for (const one of [
      { deed: 'accept', copy: foreign },
      { deed: 'collect', copy: foreign },
      { deed: 'put back', copy: foreign, version: 0 },
    ] as const)
      await expect(undoMending(test.app, await manage(), [one])).rejects.toThrow('no such copy');
  });

  it('asks once a day, however often one asks', async () => {
    const { copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    const [student = ''] = school.students;
    await write(copy, student);
    await empty(copy, student);
    const [gap] = await gaps();
    if (!gap) return;
    await Promise.all(Array.from({ length: 5 }, () => mend([{ gap, deed: 'ask' }])));
    const asked = (await readMailbox(test.app.db, student)).filter(({ subject }) =>
      subject.startsWith('A question about'),
    );
    expect(asked).toHaveLength(1);
    expect(await gaps()).toHaveLength(1);
  });

  it('finds every gap of random classes, closes each, opens it again, and loses no word', async () => {
    const chance = new Chance(11);
    const titles = ['harbours', 'beaches', 'lights'];
    const made = [];
    for (const title of titles)
      made.push(await assign(test.app, school, { title, page: about(title), guarded: false }));
    const wanted: string[] = [];
    const texts: string[] = [];
    const say = (mark: string) => {
      texts.push(mark);
      return `${words(25, mark)} ${mark}`;
    };
    let unique = 0;
    for (const [i, { assignment, copies }] of made.entries())
      for (const [j, copy] of copies.entries()) {
        const student = school.students[j] ?? '';
        const fate = chance.whole(0, 4);
        const place = (await end(copy)) - 2;
        const mark = `mark${++unique}x`;
        if (fate === 1) {
          await type(copy, student, (page) => page.insert(place, schema.text(say(mark))));
          await test.app.db
            .updateTable('page')
            .set({ away_at: new Date() })
            .where('id', '=', copy)
            .execute();
          wanted.push(`removed ${student} ${assignment}`);
        } else if (fate === 2) {
          const text = say(mark);
          await type(copy, student, (page) => page.insert(place, schema.text(text)));
          await type(copy, student, (page) => page.delete(place, place + text.length));
          wanted.push(`emptied ${student} ${assignment}`);
        } else if (fate === 3) {
          const own = await beginOwnPage(
            test.app,
            await grantInClass(test.app.db, 'manage own workbook', student, school.class),
            `Own ${unique}`,
          );
          await type(own, student, (page) => page.insert(0, carry(titles[i] ?? '', say(mark))));
          wanted.push(`worked elsewhere ${student} ${assignment}`);
        } else if (fate === 4)
          await type(copy, student, (page) => page.insert(place, schema.text(say(mark))));
      }
    const list = (all: readonly Gap[]) =>
      all.map(({ cause, students, assignment }) => `${cause} ${students[0]} ${assignment}`).sort();
    const found = await gaps();
    expect(new Set(wanted.map((one) => one.split(' ')[0])).size).toBeGreaterThan(2);
    expect(list(found)).toEqual(wanted.sort());
    expect(found.every(({ cause }) => CAUSES.includes(cause))).toBe(true);
    const done = await mend(found.map((gap) => ({ gap, deed: remediesOf(gap)[0] })));
    expect(done.refused).toEqual([]);
    expect(await gaps()).toEqual([]);
    const copies = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('class_id', '=', school.class)
      .where('kind', '=', 'copy')
      .where('away_at', 'is', null)
      .execute();
    const all = (await Promise.all(copies.map(({ id }) => textIn(id)))).join(' ');
    for (const mark of texts) expect(all).toContain(`${mark}24`);
    await undo(done);
    expect(list(await gaps())).toEqual(wanted.sort());
  });
  const end = async (page: string) => (await test.app.pages.open(page)).doc.content.size;
});
