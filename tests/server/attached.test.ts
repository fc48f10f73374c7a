import { createHash, randomBytes } from 'node:crypto';
import { PDFDocument } from 'pdf-lib';
import { beforeEach, describe, expect, it } from 'vitest';
import { stateOf } from '../../src/lib/core/copy/state';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { readEarlierAttached } from '../../src/lib/server/attached/attached-rows';
import { openAttached, putAttachedAway } from '../../src/lib/server/attached/attach';
import { lookAtAttached } from '../../src/lib/server/attached/look-at';
import { onCopy } from '../../src/lib/server/attached/receive-on-copy';
import { tellType } from '../../src/lib/server/attached/tell-type';
import {
  beginUpload,
  dropUpload,
  readUpload,
  takePiece,
} from '../../src/lib/server/attached/uploads';
import { readCopies, readCopy } from '../../src/lib/server/copy/facts';
import { handIn, takeBack } from '../../src/lib/server/copy/moves';
import type { App } from '../../src/lib/server/app';
import { gapKey } from '../../src/lib/core/headcount/gap';
import { mendGaps, readGaps, undoMending } from '../../src/lib/server/headcount/mend';
import { Refusal } from '../../src/lib/server/page/refusal';
import { useApp } from '../support/app';
import { attachBytes } from '../support/attach';
import { inClass } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let copy = '';
let student = '';
beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  copy = (await assign(test.app, school)).copies[0] ?? '';
  student = school.students[0] ?? '';
});

const own = (by = student, page = copy) => grantOnPage(test.app, 'do own work', by, page);
const row = () => readCopy(test.app.db, copy, school.teacher);
/** What begins as a picture does: a header, and data (PNG, third edition, clause 5). Nothing more is looked at. */
const PICTURE = Buffer.concat([
  Buffer.from('\x89PNG\r\n\x1a\n\0\0\0\rIHDR', 'latin1'),
  Buffer.alloc(17),
  Buffer.from('\0\x10\0\0IDAT', 'latin1'),
  randomBytes(3_000_000),
]);

const attach = (name: string, bytes: Buffer) =>
  attachBytes(test.app, { page: copy, person: student }, { name, bytes });
async function readBack(id: string, range?: { from: number; to: number }) {
  const grant = await grantOnPage(test.app, 'read the page', school.teacher, copy);
  const file = await openAttached(test.app, grant, { id, kept: false });
  const pieces: Buffer[] = [];
  for await (const one of file.bytes(range ?? { from: 0, to: file.size })) pieces.push(one);
  return Buffer.concat(pieces);
}

describe('a file that is attached', () => {
  it('comes in pieces, goes on where it was, and is the same in the end', async () => {
    const to = onCopy(test.app, await own());
    const { id } = await beginUpload(test.app, to, { name: 'sketch.png', size: PICTURE.length });
    const piece = (at: number, to: number) => ({ at, bytes: PICTURE.subarray(at, to) });
    expect(await takePiece(test.app, to, id, piece(0, 1_000_000))).toBe(1_000_000);
    // The network was lost: what came twice, or out of turn, is asked about.
    await expect(takePiece(test.app, to, id, piece(0, 1_000_000))).rejects.toThrow('out of turn');
    await expect(takePiece(test.app, to, id, piece(2_000_000, 2_500_000))).rejects.toThrow(
      'out of turn',
    );
    expect(await readUpload(test.app, to, id)).toMatchObject({ received: 1_000_000 });
    expect((await row()).attached).toEqual([]);
    await takePiece(test.app, to, id, piece(1_000_000, 2_500_000));
    await takePiece(test.app, to, id, piece(2_500_000, PICTURE.length));
    const [file] = (await row()).attached;
    expect(file).toMatchObject({
      kind: 'file',
      name: 'sketch.png',
      type: 'image/png',
      size: PICTURE.length,
      found: 'fine',
    });
    const hash = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
    expect(hash(await readBack(file?.id ?? ''))).toBe(hash(PICTURE));
    const range = { from: 999_990, to: 1_000_010 };
    expect(await readBack(file?.id ?? '', range)).toEqual(PICTURE.subarray(range.from, range.to));
  });

  it('is attached once, though its last piece is sent by many at once, or a process died before', async () => {
    const to = onCopy(test.app, await own());
    const bytes = Buffer.from('Notes from the quay.');
    const { id } = await beginUpload(test.app, to, { name: 'notes.md', size: bytes.length });
    const sent = await Promise.allSettled(
      Array.from({ length: 12 }, () => takePiece(test.app, to, id, { at: 0, bytes })),
    );
    expect(sent.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect((await row()).attached).toMatchObject([{ name: 'notes.md', type: 'text/markdown' }]);
    // All of it is here, and nobody attached it yet.
    const late = await beginUpload(test.app, to, { name: 'late.txt', size: 3 });
    await test.app.db
      .insertInto('upload_piece')
      .values({ upload_id: late.id, starts: 0, bytes: Buffer.from('abc') })
      .execute();
    await test.app.db
      .updateTable('upload')
      .set({ received: 3 })
      .where('id', '=', late.id)
      .execute();
    await Promise.all(Array.from({ length: 6 }, () => readUpload(test.app, to, late.id)));
    expect((await row()).attached.map(({ name }) => name)).toEqual(['notes.md', 'late.txt']);
  });

  it('makes a copy one that is attached and not handed in, until it is', async () => {
    const before = (await row()).mask;
    await attach('sketch.png', PICTURE.subarray(0, 2000));
    const now = await row();
    expect(stateOf(now.facts)).toBe('attached');
    expect(now.mask).toBe(`${before}1`);
    // A quarter of an hour later it is a gap.
    await test.app.db
      .updateTable('attachment')
      .set({ at: new Date(Date.now() - 900_000) })
      .execute();
    const gaps = await readGaps(test.app, await inClass(test.app.db, school.class));
    expect(gaps).toMatchObject([{ cause: 'attached', copy, attached: ['sketch.png'] }]);
    // Its teacher hands it in for them, and takes that back.
    const manage = await inClass(test.app.db, school.class);
    const chosen = gaps.map((gap) => ({ gap: gapKey(gap), deed: 'collect' as const }));
    const done = await mendGaps(test.app, manage, chosen);
    expect(done).toMatchObject({ mended: 1, refused: [] });
    expect(stateOf((await row()).facts)).toBe('handed in');
    expect((await mendGaps(test.app, manage, chosen)).refused).toHaveLength(1);
    await undoMending(test.app, manage, done.undo);
    expect(stateOf((await row()).facts)).toBe('attached');
    const remind = gaps.map((gap) => ({ gap: gapKey(gap), deed: 'remind' as const }));
    expect(await mendGaps(test.app, manage, remind)).toMatchObject({ mended: 1 });
    // Nobody is said to have been reminded who was not.
    expect(await mendGaps(test.app, manage, remind)).toMatchObject({
      mended: 0,
      refused: [{ why: 'They were reminded today already.' }],
    });
    await handIn(test.app, await own(), '');
    expect(stateOf((await row()).facts)).toBe('handed in');
    // What its student handed in, no request of a teacher takes back.
    await expect(undoMending(test.app, manage, done.undo)).rejects.toThrow('its student');
    expect(await readGaps(test.app, await inClass(test.app.db, school.class))).toEqual([]);
    // Its teacher has it: nothing is changed under their eyes.
    await expect(attach('more.txt', Buffer.from('more'))).rejects.toThrow('handed in');
    await takeBack(test.app, await own());
    expect(stateOf((await row()).facts)).toBe('attached');
  });

  it('is removed and brought back; the board of a moment has what was there then', async () => {
    const id = await attach('sketch.png', PICTURE.subarray(0, 2000));
    const then = new Date();
    await putAttachedAway(test.app, await own(), id, true);
    expect(await row()).toMatchObject({ attached: [], facts: { attached: null } });
    const which = { class: school.class, replacedToo: true } as const;
    const stood = await readCopies(test.app.db, which, school.teacher, then);
    expect(stood.find((one) => one.id === copy)?.attached).toHaveLength(1);
    // It is not lost.
    expect(await readBack(id)).toHaveLength(2000);
    await putAttachedAway(test.app, await own(), id, false);
    expect((await row()).attached).toHaveLength(1);
  });

  it('is its student’s to send and remove, and for whoever reads the copy', async () => {
    const other = school.students[1] ?? '';
    const to = onCopy(test.app, await own());
    const { id } = await beginUpload(test.app, to, { name: 'a.txt', size: 3 });
    for (const by of [other, school.teacher, school.stranger, school.marker])
      await expect(own(by)).rejects.toThrow();
    // Another copy’s own student cannot go on with it, whatever its name.
    const foreign = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('student_id', '=', other)
      .executeTakeFirstOrThrow();
    const theirs = await own(other, foreign.id);
    const toTheirs = onCopy(test.app, theirs);
    await expect(readUpload(test.app, toTheirs, id)).rejects.toThrow('not on its way');
    await expect(
      takePiece(test.app, toTheirs, id, { at: 0, bytes: Buffer.from('abc') }),
    ).rejects.toThrow('not on its way');
    await expect(dropUpload(test.app, toTheirs, id)).rejects.toThrow('not on its way');
    const file = await attach('b.txt', Buffer.from('mine'));
    await expect(putAttachedAway(test.app, theirs, file, true)).rejects.toThrow('no such thing');
    await expect(
      grantOnPage(test.app, 'read the page', other, foreign.id).then((read) =>
        openAttached(test.app, read, { id: file, kept: false }),
      ),
    ).rejects.toThrow('no such file');
    await dropUpload(test.app, to, id);
    await expect(readUpload(test.app, to, id)).rejects.toThrow('not on its way');
  });

  it('says why it is not taken', async () => {
    const to = onCopy(test.app, await own());
    const begin = (size: number) => beginUpload(test.app, to, { name: 'Fähre.mov', size });
    await expect(begin(0)).rejects.toThrow('“Fähre.mov” is empty.');
    await expect(begin(200_000_001)).rejects.toThrow('larger than 200 MB');
    const { id } = await begin(3);
    await expect(
      takePiece(test.app, to, id, { at: 0, bytes: Buffer.from('abcd') }),
    ).rejects.toThrow('more than was announced');
  });
});

describe('handed in again', () => {
  it('keeps the earlier file, to be seen; one that was never handed in is not among them', async () => {
    const first = await attach('first.txt', Buffer.from('one'));
    const slip = await attach('slip.txt', Buffer.from('two'));
    await putAttachedAway(test.app, await own(), slip, true);
    await handIn(test.app, await own(), '');
    expect(await readEarlierAttached(test.app.db, copy)).toEqual([]);
    await takeBack(test.app, await own());
    await putAttachedAway(test.app, await own(), first, true);
    await attach('second.txt', Buffer.from('three'));
    await handIn(test.app, await own(), '');
    expect((await row()).attached.map(({ name }) => name)).toEqual(['second.txt']);
    const earlier = await readEarlierAttached(test.app.db, copy);
    expect(earlier.map(({ name }) => name)).toEqual(['first.txt']);
    expect((await readBack(first)).toString()).toBe('one');
  });
});

describe('a PDF document', () => {
  it('that nothing can open is told as one that cannot be read', async () => {
    const whole = await PDFDocument.create();
    whole.addPage([200, 100]);
    const bytes = Buffer.from(await whole.save());
    await attach('whole.pdf', bytes);
    await attach('broken.pdf', Buffer.from('%PDF-1.7\nnothing more'));
    await expect
      .poll(async () => (await row()).attached.map(({ name, found }) => [name, found]))
      .toEqual([
        ['whole.pdf', 'fine'],
        ['broken.pdf', 'cannot be read'],
      ]);
  });

  it.each([
    [413, 'fine', 'too much for here, and is not said to be broken'],
    [422, 'cannot be read', 'damaged'],
  ])('whose reading is refused with %i is “%s”: it is %s', async (status, found) => {
    const attachment = await attach('heavy.pdf', Buffer.from('%PDF-1.7\nnothing more'));
    await expect.poll(async () => (await row()).attached[0]?.found).toBe('cannot be read');
    const threads = Object.create(test.app.threads) as App['threads'];
    threads.run = () => Promise.reject(new Refusal(status, 'No.'));
    await lookAtAttached({ ...test.app, threads }, { attachment, keep: false });
    expect((await row()).attached).toMatchObject([{ found }]);
  });
});

describe('the type of a file', () => {
  it.each([
    ['%PDF-1.4\n', 'x.docx', 'application/pdf'],
    ['\x89PNG\r\n\x1a\n\0\0\0\rIHDR', 'x.txt', 'image/png'],
    ['Wörter auf einer Seite', 'x', 'text/plain'],
    ['# Quay', 'quay.md', 'text/markdown'],
    ['a\0b', 'x.txt', null],
    ['', 'x.txt', null],
  ])('is told from its bytes, whatever its name says', async (bytes, name, type) => {
    const isBinary = bytes.startsWith('\x89');
    expect(await tellType(Buffer.from(bytes, isBinary ? 'latin1' : 'utf8'), name)).toBe(type);
  });

  it('is none of bytes that are neither known nor text', async () => {
    expect(await tellType(Buffer.from([0x80, 0x81, 0xfa, 0x80, 0x81]), 'x.xyz')).toBeNull();
    // A character that is cut at the end of what is looked at is a text all the same.
    expect(await tellType(Buffer.from('Fähre').subarray(0, 2), 'x')).toBe('text/plain');
  });
});
