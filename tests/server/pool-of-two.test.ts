import { randomUUID } from 'node:crypto';
import { ReplaceStep } from 'prosemirror-transform';
import { Fragment, Slice } from 'prosemirror-model';
import { beforeAll, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { useApp } from '../support/app';
import {
  assign,
  makeSchool,
  PASSWORD,
  PLACES,
  type Assigned,
  type TestSchool,
} from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp({ DATABASE_CONNECTIONS: '2' });
const AT_ONCE = 20;
let school: TestSchool;
let assigned: Assigned;
let server: Server;
const teacher: Visitor[] = [];
const students: Visitor[] = [];

beforeAll(async () => {
  school = await makeSchool(test.app, AT_ONCE);
  assigned = await assign(test.app, school);
  server = await Server.start(test.url, { DATABASE_CONNECTIONS: '2' });
  teacher.push(new Visitor(server.origin));
  await teacher[0]?.signIn(`teacher${school.id}`, PASSWORD);
  for (const index of school.students.keys()) {
    const student = new Visitor(server.origin);
    await student.signIn(`student${index + 1}${school.id}`, PASSWORD);
    students.push(student);
  }
  return () => server.stop();
});

const step = (text: string) =>
  new ReplaceStep(
    PLACES.short,
    PLACES.short,
    new Slice(Fragment.from(schema.text(text)), 0, 0),
  ).toJSON();
const inClass = (path: string) => `/classes/${school.class}${path}`;
const copy = (index: number) => assigned.copies[index] ?? '';

/** One request of each writing service; `n` tells the twenty apart. */
const WRITES: Record<string, (n: number) => Promise<Response | undefined>> = {
  'hand out': async (n) =>
    teacher[0]?.send(inClass(`/hand-out/${randomUUID()}`), {
      spec: plainSpec(assigned.original, school.class, { title: `At once ${n}` }),
      again: true,
    }),
  'hand out “done or not”': async (n) =>
    teacher[0]?.send(inClass(`/hand-out/${randomUUID()}`), {
      spec: {
        ...plainSpec(assigned.original, school.class, { title: `Boots ${n}` }),
        form: 'done or not',
        originals: [],
      },
    }),
  'keep a draft': async (n) =>
    teacher[0]?.send(
      inClass(`/hand-out/${randomUUID()}`),
      {
        spec: plainSpec(assigned.original, school.class, { title: `Draft ${n}` }),
        goesOut: null,
      },
      'PUT',
    ),
  'keep a template': async (n) =>
    teacher[0]?.send(inClass('/hand-out/templates'), {
      name: `Template ${n}`,
      spec: plainSpec(assigned.original, school.class, { title: 'T' }),
    }),
  'write steps': async (n) =>
    students[n]?.send(`/pages/${copy(n)}/steps`, {
      base: 0,
      client: `client-of-${n}`,
      first: 1,
      steps: [step('word')],
    }),
  'put a page back': async (n) =>
    students[n]?.send(`/pages/${copy(n)}/history`, { move: 'put back', version: 0 }),
  comment: async (n) =>
    teacher[0]?.send(`/pages/${copy(n)}/threads`, { text: 'Hm?', anchor: null }),
  'hand in': async (n) => students[n]?.send(`/pages/${copy(n)}/moves`, { move: 'hand in' }),
  'hand back': async (n) =>
    teacher[0]?.send(`/pages/${copy(n)}/marking`, { move: 'hand back', given: { points: '7' } }),
  'allow more time': async (n) =>
    teacher[0]?.submit(inClass(`/assignments/${assigned.assignment}?/allow`), {
      student: school.students[n] ?? '',
      kind: 'excused',
    }),
  'remove and give copies': async (n) => {
    const route = inClass(`/assignments/${assigned.assignment}/gaps`);
    const given = { copies: [copy(n)], places: [] };
    await teacher[0]?.send(route, { move: 'remove', given });
    return teacher[0]?.send(route, { move: 'give', students: [school.students[n]] });
  },
  'change an assignment': async () =>
    teacher[0]?.send(inClass(`/assignments/${assigned.assignment}/change`), {
      preview: false,
      spec: plainSpec(assigned.original, school.class, { title: 'Changed' }),
    }),
  'collect files': async (n) => {
    const at = inClass(`/assignments/${assigned.assignment}/collecting`);
    const name = Buffer.from(`student${n + 1} Person.txt`).toString('base64');
    const begun = await teacher[0]?.fetch(`${at}/uploads`, {
      method: 'POST',
      headers: { 'upload-length': '3', 'upload-metadata': `filename ${name}` },
    });
    await teacher[0]?.fetch(begun?.headers.get('location') ?? '', {
      method: 'PATCH',
      headers: { 'content-type': 'application/offset+octet-stream', 'upload-offset': '0' },
      body: 'abc',
    });
    const files = await test.app.db.selectFrom('collected').select('id').execute();
    const asked = { move: 'collect', files: files.map(({ id }) => id), handIn: true };
    return teacher[0]?.send(at, asked);
  },
  'begin a page': async (n) =>
    teacher[0]?.submit(inClass('/plan?/begin'), { title: `P ${n}`, unit: '', area: 'worktable' }),
  'paste pages': async () =>
    teacher[0]?.send(inClass('/plan/paste'), {
      pages: [assigned.original],
      unit: null,
      move: false,
    }),
  'keep groups': async (n) =>
    teacher[0]?.send(inClass('/groups'), { id: null, name: `Groups ${n}`, groups: [] }, 'PUT'),
  'begin a course': async (n) => teacher[0]?.submit('/courses?/begin', { title: `Course ${n}` }),
  'begin an own page': async (n) =>
    students[n]?.submit(inClass('/workbook?/begin'), { title: `Mine ${n}` }),
  'bring a roster': async (n) => {
    const form = new FormData();
    const file = new File([`given,family\nNew${n},Person\n`], 'roster.csv');
    form.set('roster', file);
    form.set('whole', 'false');
    const look = await teacher[0]?.fetch(inClass('/roster/compare'), {
      method: 'POST',
      body: form,
    });
    const { changes }: { changes: { key: string }[] } = (await look?.json()) ?? { changes: [] };
    form.set('chosen', JSON.stringify(changes.map(({ key }) => ({ key }))));
    return teacher[0]?.fetch(inClass('/roster/apply'), { method: 'POST', body: form });
  },
};

describe('with two connections for everybody, twenty at once', () => {
  it.each(Object.entries(WRITES))(
    '%s',
    async (_what, write) => {
      const answers = await Promise.all(Array.from({ length: AT_ONCE }, (_, n) => write(n)));
      const statuses = answers.map((answer) => answer?.status ?? 0);
      // Two at once on one thing may be told so; nobody waits for ever, and nothing breaks.
      expect(statuses.filter((status) => status >= 500)).toEqual([]);
      expect(statuses.some((status) => status < 300)).toBe(true);
      expect((await fetch(`${server.origin}/health`)).status).toBe(200);
    },
    60_000,
  );
});

it('a transaction that asks for a second connection is refused, not left to wait', async () => {
  const { db } = test.app;
  await expect(
    inTransaction(db, async () => db.selectFrom('school').select('id').execute()),
  ).rejects.toThrow('second connection');
  expect(await db.selectFrom('school').select('id').execute()).not.toEqual([]);
});
