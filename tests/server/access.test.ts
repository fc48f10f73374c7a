import { readdirSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { declaredLines } from '../../src/lib/server/access/allow';
import { type AccessLine } from '../../src/lib/server/access/table';
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

const test = useApp();
let school: TestSchool;
let assigned: Assigned;
let server: Server;

const ROLES = [
  'nobody',
  'teacher',
  'marker',
  'stranger',
  'office',
  'student1',
  'student2',
  'other',
] as const;
type RoleName = (typeof ROLES)[number];
const visitors = new Map<RoleName, Visitor>();

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  assigned = await assign(test.app, school);
  server = await Server.start(test.url);
  for (const role of ROLES) {
    const visitor = new Visitor(server.origin);
    if (role !== 'nobody')
      expect((await visitor.signIn(`${role}${school.id}`, PASSWORD)).status).toBe(200);
    visitors.set(role, visitor);
  }
});
afterAll(() => server.stop());

const ROUTES = 'src/routes';
const files = readdirSync(ROUTES, { recursive: true, encoding: 'utf8' }).filter((file) =>
  /\+(page|layout)?\.?server\.ts$/.test(file),
);

/** Every handler of every server route, with the line it declares. */
async function handlers() {
  const found: { route: string; method: string; action: string; line: AccessLine | undefined }[] =
    [];
  const modules = import.meta.glob<Record<string, unknown>>('../../src/routes/**/+*server.ts');
  for (const [path, load] of Object.entries(modules)) {
    const route = path.replace('../../src/routes', '').replace(/\/\+.*$/, '') || '/';
    const module = await load();
    for (const [name, value] of Object.entries(module)) {
      if (name === 'actions' && value && typeof value === 'object')
        for (const [action, handler] of Object.entries(value))
          found.push({ route, method: 'POST', action, line: declaredLines.get(handler) });
      else if (typeof value === 'function')
        found.push({
          route,
          method: name === 'load' ? 'GET' : name,
          action: '',
          line: declaredLines.get(value),
        });
    }
  }
  return found;
}

describe('access', () => {
  it('is declared by every handler of every server route', async () => {
    const all = await handlers();
    expect(all.length).toBeGreaterThan(20);
    expect(new Set(all.map(({ route }) => route)).size).toBe(
      new Set(files.map((file) => `/${file}`.replace(/\/\+.*$/, '') || '/')).size,
    );
    expect(all.filter(({ line }) => line === undefined)).toEqual([]);
  });

  it('does not tell a stranger that a page exists', async () => {
    const copy = assigned.copies[0] ?? '';
    const hidden = await visitors.get('student2')?.fetch(`/pages/${copy}`);
    const absent = await visitors.get('student2')?.fetch(`/pages/${crypto.randomUUID()}`);
    expect([hidden?.status, await hidden?.json()]).toEqual([absent?.status, await absent?.json()]);
  });

  it('lets a student see nothing of a class that is not open', async () => {
    const copy = assigned.copies[0] ?? '';
    const close = (opened_at: Date | null) =>
      test.app.db.updateTable('class').set({ opened_at }).where('id', '=', school.class).execute();
    await close(null);
    expect((await visitors.get('student1')?.fetch(`/pages/${copy}`))?.status).toBe(404);
    const work = await (await visitors.get('student1')?.fetch('/work/__data.json'))?.text();
    expect(work).not.toContain(copy);
    await close(new Date());
    expect((await visitors.get('student1')?.fetch(`/pages/${copy}`))?.status).toBe(200);
  });

  it('never sends a key or a kept score to a student', async () => {
    const copy = assigned.copies[0] ?? '';
    const teacher = visitors.get('teacher');
    await teacher?.send(
      `/pages/${assigned.original}/keys`,
      { part: 'number', key: { kind: 'number', value: '773.25', tolerance: '', unit: 'm' } },
      'PUT',
    );
    await teacher?.send(`/pages/${copy}/marking`, { move: 'score', given: { points: '8.75' } });
    for (const path of [
      `/work/${copy}/__data.json`,
      '/work/__data.json',
      `/pages/${copy}`,
      `/pages/${copy}/threads`,
    ]) {
      const seen = await (await visitors.get('student1')?.fetch(path))?.text();
      expect(seen).not.toContain('773.25');
      expect(seen).not.toContain('8.75');
    }
    expect(
      await (await teacher?.fetch(`/editor/${assigned.original}/__data.json`))?.text(),
    ).toContain('773.25');
  });

  it('writes down as author who is signed in, whatever a request says', async () => {
    const copy = assigned.copies[0] ?? '';
    const step = {
      stepType: 'replace',
      from: PLACES.short,
      to: PLACES.short,
      slice: { content: [{ type: 'text', text: 'mine' }] },
    };
    const answer = await visitors.get('student1')?.send(`/pages/${copy}/steps`, {
      base: 0,
      client: 'made-up-client',
      first: 1,
      steps: [{ ...step, author_id: school.teacher }],
      author: school.teacher,
      author_id: school.teacher,
      writer: { id: school.teacher, owner: false },
    });
    expect(answer?.status).toBe(200);
    const row = await test.app.db
      .selectFrom('step')
      .select(['author_id', 'body'])
      .where('page_id', '=', copy)
      .executeTakeFirstOrThrow();
    expect(row.author_id).toBe(school.students[0]);
    expect(row.body).not.toHaveProperty('author_id');
  });

  it('answers what cannot be read in words and in status', async () => {
    const copy = assigned.copies[0] ?? '';
    const student = visitors.get('student1');
    const ask = async (body: unknown) => {
      const answer = await student?.send(`/pages/${copy}/steps`, body);
      const said: { message: string } | undefined = await answer?.json();
      return [answer?.status, said?.message];
    };
    expect(await ask('{not json')).toEqual([400, expect.stringContaining('not JSON')]);
    expect(await ask({})).toEqual([400, expect.stringContaining('base')]);
    expect(
      await ask({ base: 0, client: 'x'.repeat(99), first: 1, steps: [{ stepType: 'replace' }] }),
    ).toEqual([400, expect.stringContaining('client')]);
    expect(
      await ask({
        base: 999,
        client: 'some-client',
        first: 1,
        steps: [{ stepType: 'replace', from: 1, to: 1 }],
      }),
    ).toEqual([409, expect.stringContaining('Your words stay')]);
    expect(await ask(`"${'x'.repeat(4_100_000)}"`)).toEqual([
      413,
      expect.stringContaining('smaller pieces'),
    ]);
  });
});
