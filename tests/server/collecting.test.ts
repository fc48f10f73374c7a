import { sql } from 'kysely';
import { PDFDocument } from 'pdf-lib';
import { beforeEach, describe, expect, it } from 'vitest';
import { stateOf } from '../../src/lib/core/copy/state';
import { grantOnAssignment, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { readEarlierAttached } from '../../src/lib/server/attached/attached-rows';
import { openAttached, putAttachedAway } from '../../src/lib/server/attached/attach';
import { moveCollected } from '../../src/lib/server/collecting/move-collected';
import { takeApart } from '../../src/lib/server/collecting/take-apart';
import { readCopies } from '../../src/lib/server/copy/facts';
import { handIn } from '../../src/lib/server/copy/moves';
import { useApp } from '../support/app';
import { Collecting } from '../support/collecting';
import { toWork } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';
import { zip } from '../support/zip';

const test = useApp();
const NAMES = [
  ['Ada', 'Fennick'],
  ['Isla', 'O’Abernathy'],
  ['Олена', 'Шевченко'],
  ['Ben', 'Jarrold'],
] as const;
let school: TestSchool;
let task: { assignment: string; copies: string[] };
let here: Collecting;
let waiting: Promise<unknown> | null = null;
const PDF = Buffer.from('%PDF-1.7\nsketch');

beforeEach(async () => {
  school = await makeSchool(test.app, NAMES.length);
  for (const [index, [given, family]] of NAMES.entries())
    await test.app.db
      .updateTable('person')
      .set({ given, family })
      .where('id', '=', school.students[index] ?? '')
      .execute();
  task = await assign(test.app, school);
  here = await Collecting.of(test.app, school.teacher, at());
});

const at = () => ({ assignment: task.assignment, class: school.class });
const move = (asked: Parameters<typeof moveCollected>[2]) =>
  moveCollected(test.app, here.grant, asked);
const all = async () => (await here.files()).map(({ id }) => id);
const apart = () =>
  expect
    .poll(async () => (await here.files()).filter((one) => one.standing === 'being taken apart'))
    .toEqual([]);
const copyOf = async (index: number) =>
  (await readCopies(test.app.db, { class: school.class }, school.teacher)).find(
    ({ student }) => student === school.students[index],
  );

async function bytesOf(copy: string, attachment: string): Promise<string> {
  const grant = await grantOnPage(test.app, 'read the page', school.teacher, copy);
  const file = await openAttached(test.app, grant, { id: attachment, kept: false });
  const pieces: Buffer[] = [];
  for await (const one of file.bytes({ from: 0, to: file.size })) pieces.push(one);
  return Buffer.concat(pieces).toString();
}

describe('files that a teacher collects', () => {
  it('stand on a copy in the order of the archive they came in, whichever of them was kept first', async () => {
    const names = Array.from(
      { length: 15 },
      (_, index) => `sheet ${String(index).padStart(2, '0')}.txt`,
    );
    await here.send(
      'sheets.zip',
      await zip(
        Object.fromEntries(
          names.map((name, index) => [
            `Ada Fennick/${name}`,
            `${index}`.repeat(index % 3 === 0 ? 200_000 : 1),
          ]),
        ),
      ),
    );
    await apart();
    await move({ move: 'collect', files: await all(), handIn: false });
    expect((await copyOf(0))?.attached.map(({ name }) => name)).toEqual(names);
  });

  it('are unpacked from a zip archive, matched, attached and handed in; and that is undone', async () => {
    await here.send(
      '8C sketches.zip',
      await zip({
        'Ada Fennick.pdf': PDF,
        'O’Abernathy Isla/photo.txt': 'a photo',
        'O’Abernathy Isla/second.txt': 'another',
        'Шевченко Олена.txt': 'чайка',
        'IMG_0012.txt': 'whose?',
        'ben.txt': 'perhaps Ben’s',
        '__MACOSX/._Ada Fennick.pdf': 'x',
        '.DS_Store': 'x',
      }),
    );
    await apart();
    expect(await here.standing()).toEqual({
      '8C sketches.zip': 'taken apart',
      'Ada Fennick.pdf': 'found',
      'O’Abernathy Isla/photo.txt': 'found',
      'O’Abernathy Isla/second.txt': 'found',
      'Шевченко Олена.txt': 'found',
      'IMG_0012.txt': 'doubtful',
      'ben.txt': 'doubtful',
    });
    expect((await here.files()).filter(({ others }) => others === 1)).toHaveLength(2);
    const done = await move({ move: 'collect', files: await all(), handIn: true });
    expect(done).toEqual({ collected: 4, refused: [] });
    const isla = await copyOf(1);
    expect(isla?.attached.map(({ name }) => name)).toEqual(['photo.txt', 'second.txt']);
    expect(isla && stateOf(isla.facts)).toBe('handed in');
    const olena = await copyOf(2);
    expect(await bytesOf(olena?.id ?? '', olena?.attached[0]?.id ?? '')).toBe('чайка');
    // Whose the others are is said; what is nobody’s is put aside, and is not lost.
    const ben = await here.idOf('ben.txt');
    const photo = await here.idOf('IMG_0012.txt');
    await move({ move: 'say whose', file: ben, student: school.students[3] ?? '' });
    await move({ move: 'put aside', files: [photo], away: true });
    expect(await here.standing()).toMatchObject({
      'ben.txt': 'found',
      'IMG_0012.txt': 'put aside',
    });
    await move({ move: 'collect', files: await all(), handIn: false });
    const his = await copyOf(3);
    expect(his && stateOf(his.facts)).toBe('attached');
    await move({ move: 'put aside', files: [photo], away: false });
    await move({ move: 'undo', files: await all() });
    for (const index of [0, 1, 2, 3]) {
      const copy = await copyOf(index);
      expect(copy?.attached).toEqual([]);
      expect(copy && stateOf(copy.facts)).toBe('unopened');
      // It may have been another’s: its student finds nothing of it any more.
      expect(await readEarlierAttached(test.app.db, copy?.id ?? '')).toEqual([]);
    }
    const [sketch] = isla?.attached ?? [];
    await expect(bytesOf(isla?.id ?? '', sketch?.id ?? '')).rejects.toThrow('no such file');
    const work = await toWork(test.app, { page: isla?.id ?? '', person: school.students[1] ?? '' });
    await expect(putAttachedAway(test.app, work, sketch?.id ?? '', false)).rejects.toThrow(
      'no such',
    );
    // And collected again, another may get one of them.
    await move({ move: 'say whose', file: ben, student: school.students[0] ?? '' });
    await move({ move: 'collect', files: [ben], handIn: true });
    expect((await copyOf(0))?.attached.map(({ name }) => name)).toEqual(['ben.txt']);
  });

  it('are collected once, though two collect them at once, twenty times', async () => {
    await here.send('Ada Fennick.txt', PDF);
    await here.send('Isla O’Abernathy.txt', PDF);
    const files = await all();
    const done = await Promise.all(
      Array.from({ length: 20 }, () => move({ move: 'collect', files, handIn: true })),
    );
    expect(done.reduce((sum, one) => sum + (one?.collected ?? 0), 0)).toBe(2);
    expect((await copyOf(0))?.attached).toHaveLength(1);
    const events = await test.app.db
      .selectFrom('event')
      .select('kind')
      .where('page_id', '=', (await copyOf(0))?.id ?? '')
      .execute();
    expect(events.map(({ kind }) => kind)).toEqual(['handed in']);
  });

  it('go nowhere, and hand nothing in, when somebody says meanwhile that they are another’s', async () => {
    await here.send('Ada Fennick.txt', PDF);
    const files = await all();
    const { db } = test.app;
    // Said while the copy is waited for.
    await db.transaction().execute(async (tx) => {
      const copy = (await copyOf(0))?.id ?? '';
      await tx.selectFrom('page').select('id').where('id', '=', copy).forUpdate().execute();
      const collecting = move({ move: 'collect', files, handIn: true });
      await expect
        .poll(async () => {
          const { rows } = await sql<{ waiting: boolean }>`
              select count(*) > 0 as waiting from pg_stat_activity
              where datname = current_database() and wait_event_type = 'Lock'`.execute(db);
          return rows[0]?.waiting;
        })
        .toBe(true);
      await move({ move: 'say whose', file: files[0] ?? '', student: school.students[3] ?? '' });
      waiting = collecting;
    });
    expect(await waiting).toMatchObject({
      collected: 0,
      refused: [{ why: 'Somebody else decided about these files just now.' }],
    });
    const ada = await copyOf(0);
    expect(ada?.attached).toEqual([]);
    expect(ada && stateOf(ada.facts)).toBe('unopened');
  });

  it('do not hand in again what a student handed in, and leave it handed in when they are taken off', async () => {
    const [ada = ''] = school.students;
    const copy = (await copyOf(0))?.id ?? '';
    await handIn(test.app, await toWork(test.app, { page: copy, person: ada }), '');
    await here.send('Ada Fennick.txt', PDF);
    await move({ move: 'collect', files: await all(), handIn: true });
    expect((await copyOf(0))?.attached).toHaveLength(1);
    await expect(move({ move: 'undo', files: await all() })).rejects.toThrow('stays on it');
    expect((await copyOf(0))?.attached).toHaveLength(1);
  });

  it('wait for whoever has no copy', async () => {
    await test.app.db
      .updateTable('page')
      .set({ away_at: new Date() })
      .where('id', '=', task.copies[0] ?? '')
      .execute();
    await here.send('Ada Fennick.txt', PDF);
    expect(await here.standing()).toEqual({ 'Ada Fennick.txt': 'no copy' });
    expect(await move({ move: 'collect', files: await all(), handIn: true })).toEqual({
      collected: 0,
      refused: [],
    });
  });

  it('are all to be decided in a class of nobody, and found one by one in a class of sixty', async () => {
    const empty = await makeSchool(test.app, 0);
    const none = await assign(test.app, empty);
    const nobody = await Collecting.of(test.app, empty.teacher, {
      assignment: none.assignment,
      class: empty.class,
    });
    await nobody.send('Ada "the quill" Fennick.txt', PDF);
    expect(await nobody.standing()).toEqual({ 'Ada "the quill" Fennick.txt': 'doubtful' });
    const many = await makeSchool(test.app, 60);
    const all = await assign(test.app, many);
    const sixty = await Collecting.of(test.app, many.teacher, {
      assignment: all.assignment,
      class: many.class,
    });
    const files = Object.fromEntries(
      many.students.map((_, n) => [`sheets/Person, Student${n + 1}.txt`, String(n)]),
    );
    await sixty.send('sheets.zip', await zip(files));
    await expect
      .poll(async () => Object.values(await sixty.standing()).filter((one) => one === 'found'))
      .toHaveLength(60);
    const ids = (await sixty.files()).map(({ id }) => id);
    const asked = { move: 'collect', files: ids, handIn: true } as const;
    expect(await moveCollected(test.app, sixty.grant, asked)).toEqual({
      collected: 60,
      refused: [],
    });
  });

  it('are for those who run the assignment, and for its own class', async () => {
    await here.send('ben.txt', PDF);
    const [file = ''] = await all();
    for (const by of [school.marker, school.stranger, school.students[0] ?? '', school.office])
      await expect(
        grantOnAssignment(test.app.db, 'run the assignment', by, at()),
      ).rejects.toThrow();
    await expect(move({ move: 'say whose', file, student: school.otherStudent })).rejects.toThrow(
      'no student of this class',
    );
    const other = await assign(test.app, school, { title: 'Another' });
    const there = await Collecting.of(test.app, school.teacher, {
      assignment: other.assignment,
      class: school.class,
    });
    for (const asked of [
      { move: 'say whose', file, student: null },
      { move: 'put aside', files: [file], away: true },
      { move: 'undo', files: [file] },
      { move: 'cut', file, cuts: [{ pages: [1], student: null }] },
    ] as const)
      await expect(
        moveCollected(test.app, there.grant, asked as Parameters<typeof moveCollected>[2]),
      ).rejects.toThrow('no such file');
    expect(await there.files()).toEqual([]);
  });
});

describe('a zip archive', () => {
  it('whose names climb writes nowhere; what is empty, locked or damaged is left out with a sentence', async () => {
    const good = await zip({ 'Ada Fennick.txt': 'aa', 'xx/xx/passwd.txt': 'bb', 'empty.txt': '' });
    // The library writes no such names: they are put in afterwards, of the same length.
    const climbing = Buffer.from(
      good.toString('latin1').replaceAll('xx/xx/passwd', '../../passwd'),
      'latin1',
    );
    await here.send('climbing.zip', climbing);
    await apart();
    expect(await here.standing()).toEqual({
      'climbing.zip': 'taken apart',
      'Ada Fennick.txt': 'found',
      'passwd.txt': 'doubtful',
    });
    const [whole] = await here.files();
    expect(whole?.leftOut).toEqual([{ path: 'empty.txt', why: 'It is empty.' }]);
  });

  it('that grows without bound, or is damaged, stays one file, which can be collected', async () => {
    await here.send('bomb.zip', await zip({ 'Ada Fennick.txt': Buffer.alloc(60_000_000) }));
    const cut = (await zip({ 'Isla O’Abernathy.txt': 'x'.repeat(500) })).subarray(0, 90);
    await here.send('Ben Jarrold.zip', cut);
    await apart();
    const files = await here.files();
    expect(files.map(({ path, standing }) => [path, standing])).toEqual([
      ['bomb.zip', 'doubtful'],
      ['Ben Jarrold.zip', 'found'],
    ]);
    expect(files.map(({ leftOut }) => leftOut[0]?.why)).toEqual([
      'Unpacked, this zip archive would be too large, so it stays one file.',
      'This zip archive is damaged, so it stays one file.',
    ]);
  });

  it('is taken apart once, though its job dies in the middle and comes again', async () => {
    const files = Object.fromEntries(
      Array.from({ length: 12 }, (_, n) => [`${n} Ada Fennick.txt`, String(n)]),
    );
    await here.send('many.zip', await zip(files));
    await apart();
    const [whole] = await here.files();
    // As if it had died after five.
    await test.app.db
      .deleteFrom('collected')
      .where('from_id', '=', whole?.id ?? '')
      .where('place', '>', 4)
      .execute();
    await test.app.db
      .updateTable('collected')
      .set({ apart: 'begun' })
      .where('id', '=', whole?.id ?? '')
      .execute();
    await Promise.allSettled([
      takeApart(test.app, whole?.id ?? ''),
      takeApart(test.app, whole?.id ?? ''),
    ]);
    await takeApart(test.app, whole?.id ?? '');
    const there = (await here.files()).slice(1).map(({ path }) => path);
    expect(there.sort()).toEqual(Object.keys(files).sort());
  });
});

describe('a stack of sheets', () => {
  const stack = async (pages: number) => {
    const made = await PDFDocument.create();
    for (let page = 1; page <= pages; page++) made.addPage([100 + page, 200]);
    return Buffer.from(await made.save());
  };

  it('is cut by its pages to students, whose sheets they are then', async () => {
    await here.send('scan.pdf', await stack(6));
    const [ada = '', isla = ''] = school.students;
    const file = await here.idOf('scan.pdf');
    await move({
      move: 'cut',
      file,
      cuts: [
        { pages: [2, 3], student: ada },
        { pages: [5], student: isla },
        { pages: [6], student: null },
      ],
    });
    await apart();
    expect(await here.standing()).toEqual({
      'scan.pdf': 'taken apart',
      'Sheets 2 to 3.pdf': 'found',
      'Sheet 5.pdf': 'found',
      'Sheet 6.pdf': 'doubtful',
    });
    // Cut in another way: what was collected is undone first.
    await move({ move: 'collect', files: await all(), handIn: true });
    await expect(move({ move: 'put together', file })).rejects.toThrow('Undo that first');
    await move({ move: 'undo', files: await all() });
    await move({ move: 'put together', file });
    expect(await here.standing()).toEqual({
      'scan.pdf': 'doubtful',
      'Sheets 2 to 3.pdf': 'put aside',
      'Sheet 5.pdf': 'put aside',
    });
    await move({ move: 'cut', file, cuts: [{ pages: [2, 3], student: ada }] });
    await apart();
    await move({ move: 'collect', files: await all(), handIn: true });
    const copy = await copyOf(0);
    const grant = await grantOnPage(test.app, 'read the page', school.teacher, copy?.id ?? '');
    const sheet = await openAttached(test.app, grant, {
      id: copy?.attached[0]?.id ?? '',
      kept: false,
    });
    const bytes: Buffer[] = [];
    for await (const piece of sheet.bytes({ from: 0, to: sheet.size })) bytes.push(piece);
    const cut = await PDFDocument.load(Buffer.concat(bytes));
    expect(cut.getPages().map((page) => page.getWidth())).toEqual([102, 103]);
  });

  it('that is none, or has no such page, stays one file with a sentence', async () => {
    await here.send('Ada Fennick.pdf', PDF);
    await here.send('notes.txt', Buffer.from('no stack'));
    await here.send('short.pdf', await stack(2));
    const cuts = [{ pages: [1, 9], student: null }];
    await move({ move: 'cut', file: await here.idOf('Ada Fennick.pdf'), cuts });
    await move({ move: 'cut', file: await here.idOf('short.pdf'), cuts });
    await expect(move({ move: 'cut', file: await here.idOf('notes.txt'), cuts })).rejects.toThrow(
      'no PDF',
    );
    await apart();
    const files = await here.files();
    expect(files.map(({ path, standing, leftOut }) => [path, standing, leftOut[0]?.why])).toEqual([
      ['Ada Fennick.pdf', 'found', 'This PDF is damaged, so it cannot be cut.'],
      ['notes.txt', 'doubtful', undefined],
      ['short.pdf', 'doubtful', 'This stack has 2 pages, and another was asked for.'],
    ]);
  });
});
