import { afterAll, beforeAll, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { useApp } from '../support/app';
import { readHandlers, type Handler } from '../support/handlers';
import { assign, makeSchool, PASSWORD, type Assigned, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
const HOW_MANY = 2_000;
const AT_ONCE = 10;
let school: TestSchool;
let theirs: TestSchool;
let assigned: Assigned;
let others: Assigned;
let server: Server;
const visitors: Visitor[] = [];

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  theirs = await makeSchool(test.app, 2);
  assigned = await assign(test.app, school);
  others = await assign(test.app, theirs);
  server = await Server.start(test.url);
  for (const name of ['teacher', 'student1', 'office', 'marker']) {
    const visitor = new Visitor(server.origin);
    await visitor.signIn(`${name}${school.id}`, PASSWORD);
    visitors.push(visitor);
  }
});
afterAll(() => server.stop());

function pick<T>(chance: Chance, list: readonly T[]): T {
  const [first, ...rest] = list;
  if (first === undefined && rest.length === 0) throw new Error('nothing to pick from');
  return list[chance.whole(0, list.length - 1)] as T;
}

/** Names of fields that some route asks for. */
const FIELDS = [
  ...['title', 'unit', 'page', 'id', 'area', 'kind', 'about', 'text', 'note', 'at', 'person'],
  ...['change', 'students', 'student', 'withdrawn', 'spec', 'preview', 'begin', 'seen', 'name'],
  ...['groups', 'version', 'table', 'base', 'client', 'first', 'steps', 'lost', 'move', 'points'],
  ...['handedIn', 'anchor', 'part', 'key', 'numbers', 'pages', 'units', 'on', 'codes', 'roster'],
  ...['whole', 'chosen', 'columns', 'officeClass', 'starts', 'ends', 'weekday', 'zone', 'list'],
  ...['message', 'mails', 'colleague', 'may', 'thing', 'away', 'from', 'document', 'pictures'],
  ...['copies', 'copy', 'places'],
  ...['old', 'password', 'session', 'people', 'given', 'family', 'role', 'email', 'class', 'yes'],
] as const;

/** Values as nobody would send them. */
function strange(chance: Chance, depth = 0): unknown {
  const ids = [
    school.class,
    theirs.class,
    assigned.assignment,
    others.copies[0],
    assigned.copies[0],
  ];
  const values: (() => unknown)[] = [
    () => null,
    () => '',
    () => 'x'.repeat(chance.whole(1, 400)),
    () => 'a\0b',
    () => '\ud800',
    () => "'; drop table page; --",
    () => '<script>alert(1)</script>',
    () => pick(chance, [-1, 0, 1, 1e308, 2 ** 31, -0.5, 99_999_999_999]),
    () => pick(chance, ids),
    () =>
      pick(chance, [
        'one',
        'two',
        'shelf',
        'hand in',
        'score',
        'lead',
        'original',
        'true',
        'course',
      ]),
    () => '2026-13-45',
    () => true,
    () => [],
    () => ({}),
  ];
  if (depth < 4) {
    values.push(() => Array.from({ length: chance.whole(0, 4) }, () => strange(chance, depth + 1)));
    values.push(() => fields(chance, depth + 1));
  }
  return pick(chance, values)();
}
const fields = (chance: Chance, depth = 0) =>
  Object.fromEntries(
    Array.from({ length: chance.whole(0, 6) }, () => [
      pick(chance, FIELDS),
      strange(chance, depth),
    ]),
  );

function body(chance: Chance): { body: BodyInit; headers: Record<string, string> } {
  const json = JSON.stringify(chance.happens(80) ? fields(chance) : strange(chance)) ?? 'null';
  const form = () => {
    const made = new FormData();
    for (const [name, value] of Object.entries(fields(chance)))
      if (chance.happens(15)) made.set(name, new File([String(value)], 'x\ud800.csv'));
      else made.set(name, typeof value === 'string' ? value : (JSON.stringify(value) ?? ''));
    return made;
  };
  return pick(chance, [
    () => ({ body: json, headers: { 'content-type': 'application/json' } }),
    () => ({ body: json.slice(0, -1), headers: { 'content-type': 'application/json' } }),
    () => ({ body: form(), headers: {} }),
    () => ({ body: form(), headers: {} }),
    () => ({
      body: 'title=%ff%00&unit=',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
    }),
    () => ({ body: '\0\u0001', headers: { 'content-type': 'text/plain' } }),
    () => ({ body: '[['.repeat(5_000), headers: { 'content-type': 'application/json' } }),
    () => ({ body: '--x', headers: { 'content-type': 'multipart/form-data; boundary=x' } }),
  ])();
}

const addressOf = ({ route, action }: Handler, chance: Chance) => {
  const path = route
    .replace('[class]', chance.happens(85) ? school.class : theirs.class)
    .replace('[course]', school.course)
    .replace('[assignment]', assigned.assignment)
    .replace(
      '[page]',
      pick(chance, [assigned.copies[0], assigned.original, others.copies[0]]) ?? '',
    )
    .replace('[student]', school.students[0] ?? '')
    .replace(/\[(\w+)\]/g, () => pick(chance, ['x', crypto.randomUUID(), '%00', '..', '%ff', "'"]));
  return action && action !== 'default' ? `${path}?/${action}` : path;
};

/** Everything of the other school. */
const theirData = async () => {
  const { db } = test.app;
  const of = (table: 'page' | 'enrolment' | 'class' | 'person' | 'class_staff' | 'assignment') =>
    db.selectFrom(table).selectAll().where('school_id', '=', theirs.id).execute();
  const tables = ['page', 'enrolment', 'class', 'person', 'class_staff', 'assignment'] as const;
  return JSON.stringify(await Promise.all(tables.map(of)));
};

it(`${HOW_MANY} bad bodies over all routes break nothing, hang nothing and reach nobody else’s data`, async () => {
  const seed = Number(process.env.SEED ?? 7);
  const chance = new Chance(seed);
  const before = await theirData();
  // Signing out and ending sessions would only stop the test itself.
  const handlers = (await readHandlers()).filter(
    ({ method, name }) =>
      !['GET', 'HEAD'].includes(method) && !/sign-out|endOthers|account end/.test(name),
  );
  const broken: string[] = [];
  const statuses = new Map<number, number>();
  for (let sent = 0; sent < HOW_MANY; sent += AT_ONCE)
    await Promise.all(
      Array.from({ length: AT_ONCE }, async () => {
        const handler = pick(chance, handlers);
        const address = addressOf(handler, chance);
        const made = body(chance);
        const visitor = pick(chance, visitors);
        const answer = await visitor.fetch(address, {
          method: handler.method,
          body: made.body,
          signal: AbortSignal.timeout(20_000),
          headers: {
            ...made.headers,
            ...(handler.action ? { 'x-sveltekit-action': 'true' } : {}),
          },
        });
        const text = await answer.text();
        statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
        if (answer.status >= 500 || /"status":5\d\d|went wrong on our side/.test(text))
          broken.push(
            `${handler.name} ${address} ${answer.status} ${String(made.body).slice(0, 200)} ${text.slice(0, 200)}`,
          );
      }),
    );
  expect(broken, `seed ${seed}`).toEqual([]);
  // Bad bodies are told so; what could be read was let through.
  expect(statuses.get(400) ?? 0).toBeGreaterThan(HOW_MANY / 20);
  expect(await theirData()).toBe(before);
  expect((await fetch(`${server.origin}/health`)).status).toBe(200);
});
