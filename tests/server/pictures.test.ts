import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { copyPages } from '../../src/lib/server/course/copy-pages';
import { copyReading } from '../../src/lib/server/copy/own-pages';
import { useApp } from '../support/app';
import { newPage } from '../support/grants';
import { assign, makeSchool, PASSWORD, questionPage, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let server: Server;
let school: TestSchool;
const at = new Date();

beforeAll(async () => {
  school = await makeSchool(test.app, 3);
  server = await Server.start(test.url);
});
afterAll(() => server.stop());

const visit = async (name: string) => {
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`${name}${school.id}`, PASSWORD);
  return visitor;
};

/** A picture of one dot, another for each number. */
function dot(n: number): Buffer {
  const gif = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
  gif.writeUInt16BE(n, 14);
  return gif;
}

async function send(who: Visitor, n: number): Promise<string> {
  const answer = await who.fetch('/files', {
    method: 'POST',
    body: new Uint8Array(dot(n)),
    headers: { 'content-type': 'application/octet-stream' },
  });
  expect(answer.status).toBe(201);
  return ((await answer.json()) as { file: string }).file;
}

const put = (who: Visitor, page: string, file: string, base = 0) =>
  who.send(`/pages/${page}/steps`, {
    base,
    client: `client-${file.slice(0, 8)}`,
    first: 1,
    lost: [],
    steps: [
      {
        stepType: 'replace',
        from: 0,
        to: 0,
        slice: { content: [{ type: 'picture', attrs: { file, alt: '' } }] },
      },
    ],
  });

const sees = async (who: Visitor, file: string) => (await who.fetch(`/files/${file}`)).status;

describe('a picture', () => {
  it('is seen by who sent it and who may read a page that shows it, and by nobody else who knows its name', async () => {
    const [teacher, stranger, one, two, other] = [
      await visit('teacher'),
      await visit('stranger'),
      await visit('student1'),
      await visit('student2'),
      await visit('other'),
    ];
    const original = await newPage(
      test.app.db,
      { at, title: 'Seen', in: { kind: 'original', course: school.course } },
      questionPage(),
    );
    const file = await send(teacher, 1);
    const everybody = [teacher, one, two, other, stranger];
    const statuses = async () => Promise.all(everybody.map((who) => sees(who, file)));
    expect(await statuses()).toEqual([200, 404, 404, 404, 404]);
    expect((await put(teacher, original, file)).status).toBe(200);
    expect(await statuses()).toEqual([200, 404, 404, 404, 404]);
    const { copies } = await assign(test.app, school, { guarded: false });
    expect((await put(teacher, copies[0] ?? '', file)).status).toBe(200);
    expect(await statuses()).toEqual([200, 200, 404, 404, 404]);
  });

  it('that is drawn on is seen by who may read the page, also when it was set alone; naming it is not having it', async () => {
    const [teacher, one, other] = [
      await visit('teacher'),
      await visit('student1'),
      await visit('other'),
    ];
    const { copies } = await assign(test.app, school, { guarded: false });
    const [copy = ''] = copies;
    const file = await send(teacher, 7);
    const steps = (base: number, client: string, step: object) => ({
      base,
      client,
      first: 1,
      lost: [],
      steps: [step],
    });
    const drawing = { type: 'answer_drawing', attrs: { id: 'd' } };
    const insert = { stepType: 'replace', from: 0, to: 0, slice: { content: [drawing] } };
    const set = { stepType: 'attr', pos: 0, attr: 'file', value: file };
    const way = `/pages/${copy}/steps`;
    expect((await one.send(way, steps(0, 'client-draws', insert))).status).toBe(200);
    expect((await one.send(way, steps(1, 'client-names', set))).status).toBe(200);
    expect([await sees(one, file), await sees(other, file)]).toEqual([404, 404]);
    expect((await teacher.send(way, steps(2, 'client-keeps', { ...set, value: '' }))).status).toBe(
      200,
    );
    expect((await teacher.send(way, steps(3, 'client-shows', set))).status).toBe(200);
    expect([await sees(one, file), await sees(other, file)]).toEqual([200, 404]);
  });

  it('goes with a page into copies that nobody has touched, into a workbook, and into another class', async () => {
    const [teacher, stranger, one, other] = [
      await visit('teacher'),
      await visit('stranger'),
      await visit('student1'),
      await visit('other'),
    ];
    const reading = await newPage(
      test.app.db,
      { at, title: 'Read', in: { kind: 'class page', class: school.class, area: 'shelf' } },
      questionPage(),
    );
    const file = await send(teacher, 2);
    expect(await sees(one, file)).toBe(404);
    await put(teacher, reading, file);
    expect(await sees(one, file)).toBe(200);
    const [student = ''] = school.students;
    await copyReading(
      test.app,
      await grantOnPage(test.app, 'take a copy of the page', student, reading),
    );
    await test.app.db.updateTable('page').set({ away_at: at }).where('id', '=', reading).execute();
    expect(await sees(one, file)).toBe(200);
    expect(await sees(other, file)).toBe(404);
    await inTransaction(test.app.db, (tx) =>
      copyPages(test.app.memory, tx, {
        school: school.id,
        pages: [reading],
        unit: null,
        at,
        in: { kind: 'class page', class: school.otherClass, area: 'shelf' },
      }),
    );
    expect([await sees(other, file), await sees(stranger, file)]).toEqual([200, 200]);
  });

  it('is handed out with its original', async () => {
    const [teacher, one, other] = [
      await visit('teacher'),
      await visit('student1'),
      await visit('other'),
    ];
    const file = await send(teacher, 3);
    const page = questionPage();
    const pictured = page.copy(
      page.content.addToEnd(page.type.schema.node('picture', { file, alt: '' })),
    );
    const { original } = await assign(test.app, school, { page: pictured });
    await put(teacher, original, file);
    expect([await sees(one, file), await sees(other, file)]).toEqual([200, 404]);
  });

  it('is not had by naming it in a page of one’s own', async () => {
    const [teacher, other] = [await visit('teacher'), await visit('other')];
    const file = await send(teacher, 4);
    await other.submit(`/classes/${school.otherClass}/workbook?/begin`, { title: 'Mine' });
    const mine = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('kind', '=', 'own page')
      .where('student_id', '=', school.otherStudent)
      .executeTakeFirstOrThrow();
    expect((await put(other, mine.id, file)).status).toBe(200);
    expect(await sees(other, file)).toBe(404);
    const own = await send(other, 5);
    expect((await put(other, mine.id, own, 1)).status).toBe(200);
    const stranger = await visit('stranger');
    expect([await sees(stranger, own), await sees(teacher, own)]).toEqual([200, 404]);
  });
});
