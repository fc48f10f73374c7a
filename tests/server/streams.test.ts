import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { useApp } from '../support/app';
import { makeSchool, PASSWORD, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let school: TestSchool;
const servers: Server[] = [];

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  servers.push(await Server.start(test.url), await Server.start(test.url));
});
afterAll(() => Promise.all(servers.map((server) => server.stop())));

async function visit(name: string, at = 0): Promise<Visitor> {
  const visitor = new Visitor(servers[at]?.origin ?? '');
  await visitor.signIn(`${name}${school.id}`, PASSWORD);
  return visitor;
}

/** A stream of news, and what tells when the server has ended it. */
async function listen(visitor: Visitor) {
  const stop = new AbortController();
  const answer = await visitor.fetch('/live', { signal: stop.signal });
  const reader = answer.body?.getReader();
  await reader?.read();
  const ended = (async () => {
    for (;;) if ((await reader?.read())?.done) return 'ended';
  })();
  return { status: answer.status, ended, stop: () => stop.abort() };
}

describe('a stream of news', () => {
  it('ends with its session, at whatever process, and with a disabled account', async () => {
    const here = await visit('student1');
    const stream = await listen(here);
    const elsewhere = await listen((await visit('student1')).moveTo(servers[1]?.origin ?? ''));
    expect((await here.fetch('/sign-out', { method: 'POST' })).status).toBe(204);
    expect(await stream.ended).toBe('ended');
    const office = await visit('office');
    await office.submit('/school?/disable', { person: school.students[0] ?? '', disabled: 'true' });
    expect(await elsewhere.ended).toBe('ended');
  });

  it('begins anew when its person becomes one of the staff of a class', async () => {
    const stranger = await visit('stranger');
    const stream = await listen(stranger);
    const teacher = await visit('teacher');
    await teacher.submit(`/classes/${school.class}/set-up?/staff`, {
      person: school.stranger,
      kind: 'marker',
    });
    expect(await stream.ended).toBe('ended');
  });

  it('is opened at most twenty times by one person', async () => {
    const teacher = await visit('marker');
    const streams = [];
    for (let i = 0; i < 20; i++) streams.push(await listen(teacher));
    const refused = await teacher.fetch('/live');
    expect(refused.status).toBe(429);
    for (const stream of streams) {
      stream.ended.catch(() => undefined);
      stream.stop();
    }
  });
});
