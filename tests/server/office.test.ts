import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import { compareRoster } from '../../src/lib/core/roster/compare-roster';
import { grantByRole } from '../../src/lib/server/access/in-the-name-of';
import { findClass, type ClassThing } from '../../src/lib/server/access/relation';
import { Office } from '../../src/lib/server/office/office';
import { readOfficeDifferences } from '../../src/lib/server/desk/office-differences';
import { readKnown, readOfficeClass, rememberOffice } from '../../src/lib/server/roster/known';
import { readFromOffice } from '../../src/lib/server/roster/read-file';
import { officeServer } from '../../standins/office/office';
import { officeRecords, type Records } from '../../standins/office/records';
import { rosterAs } from '../support/deeds';
import { useApp } from '../support/app';
import { makeSchool, type TestSchool } from '../support/school';

const test = useApp();
const CLIENT = { id: 'uncia', secret: 'only the two of us know' };
const records = () => officeRecords('2026-10-14');
let running: Server[] = [];

async function listen(server: Server): Promise<string> {
  running.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
const standIn = (of: Records = records(), now = Date.now) => listen(officeServer(of, CLIENT, now));

const basic = (secret: string) => ({
  authorization: `Basic ${Buffer.from(`uncia:${encodeURIComponent(secret)}`).toString('base64')}`,
});

afterEach(() => {
  for (const server of running) {
    server.close();
    server.closeAllConnections();
  }
  running = [];
});

describe('the office stand-in', () => {
  // RFC 6749, 4.4 and 5.2: the client credentials grant and its errors.
  it('gives a token to whom it knows, and nothing without one', async () => {
    const url = await standIn();
    const ask = (secret: string, grant = 'client_credentials') =>
      fetch(`${url}/token`, {
        method: 'POST',
        headers: basic(secret),
        body: new URLSearchParams({ grant_type: grant }),
      });
    expect((await ask('guess')).status).toBe(401);
    expect(await (await ask(CLIENT.secret, 'password')).json()).toEqual({
      error: 'unsupported_grant_type',
    });
    const token = await (await ask(CLIENT.secret)).json();
    expect(token).toMatchObject({ token_type: 'bearer', expires_in: 3600 });
    const classes = `${url}/ims/oneroster/rostering/v1p2/classes`;
    const bare = await fetch(classes);
    expect(bare.status).toBe(401);
    // 1EdTech OneRoster 1.2, REST binding: the status payload (field names from memory).
    expect(await bare.json()).toMatchObject({ imsx_codeMajor: 'failure', imsx_severity: 'error' });
    const admitted = await fetch(classes, {
      headers: { authorization: `Bearer ${token.access_token}` },
    });
    expect(admitted.status).toBe(200);
  });

  it('gives a list in pieces, with the whole count and a link to the next', async () => {
    const url = await standIn();
    const token = await (
      await fetch(`${url}/token`, {
        method: 'POST',
        headers: basic(CLIENT.secret),
        body: new URLSearchParams({ grant_type: 'client_credentials' }),
      })
    ).json();
    const headers = { authorization: `Bearer ${token.access_token}` };
    let next = `${url}/ims/oneroster/rostering/v1p2/classes/cls-8c/students?limit=10`;
    const seen: string[] = [];
    while (next) {
      const answer = await fetch(next, { headers });
      expect(answer.headers.get('x-total-count')).toBe('24');
      for (const user of (await answer.json()).users) seen.push(user.sourcedId);
      next = /<([^>]+)>; rel="next"/.exec(answer.headers.get('link') ?? '')?.[1] ?? '';
    }
    expect(new Set(seen).size).toBe(24);
    const missing = `${url}/ims/oneroster/rostering/v1p2/classes/none/students`;
    expect((await fetch(missing, { headers })).status).toBe(404);
  });
});

describe('asking the office', () => {
  let school: TestSchool;
  let klass: ClassThing;
  beforeAll(async () => {
    school = await makeSchool(test.app, 2);
    const found = await findClass(test.app.db, school.teacher, school.class);
    if (!found) throw new Error('no class');
    klass = found.thing;
  });
  const office = async (of?: Records) => new Office({ url: await standIn(of), ...CLIENT });

  it('brings its roster in, remembers the pair, and knows everybody by number the next time', async () => {
    const first = await readFromOffice(await office(), null);
    expect(first.officeClasses?.map(({ code }) => code)).toEqual(['8A', '8B', '8C', '9A']);
    expect(first.officeClass).toBeNull();
    expect(first.entries).toEqual([]);
    const read = await readFromOffice(await office(), 'cls-8c');
    expect(read.entries).toHaveLength(24);
    const { changes } = compareRoster(read.entries, await readKnown(test.app.db, klass), true);
    expect(changes.filter(({ kind }) => kind === 'joins')).toHaveLength(24);
    expect(changes.filter(({ kind }) => kind === 'leaves')).toHaveLength(2);
    await rosterAs(test.app, klass, {
      entries: read.entries,
      officeClass: read.officeClass,
      whole: true,
      chosen: changes.map(({ key }) => ({ key })),
      by: school.teacher,
      source: 'the office',
      fromOffice: true,
    });
    expect(await readOfficeClass(test.app.db, klass.id)).toBe('cls-8c');

    const later = records();
    for (const user of later.users) if (user.givenName === 'Ada') user.familyName = 'Fennick-Orr';
    const again = await readFromOffice(await office(later), 'cls-8c');
    const next = compareRoster(again.entries, await readKnown(test.app.db, klass), true);
    expect(next.changes.map(({ kind, name }) => [kind, name])).toEqual([
      ['renamed', 'Fennick-Orr, Ada'],
    ]);
  });

  it('is compared for the desk, of classes that are paired with one of its', async () => {
    const of = records();
    const own = await makeSchool(test.app, 2);
    const app = { db: test.app.db, office: await office(of) };
    const teacher = await grantByRole(test.app.db, 'see own desk', own.teacher);
    expect(await readOfficeDifferences(app, teacher)).toEqual([]);
    await rememberOffice(test.app.db, own.id, { class: own.class }, 'cls-8c', true);
    expect(await readOfficeDifferences(app, teacher)).toEqual([
      { class: own.class, joins: 24, leaves: 2, other: 0 },
    ]);
    // It is asked again while they differ; a school without an office has nothing to compare.
    of.enrollments = [];
    expect(await readOfficeDifferences(app, teacher)).toMatchObject([{ joins: 0, leaves: 2 }]);
    expect(await readOfficeDifferences({ ...app, office: null }, teacher)).toEqual([]);
    const gone = new Office({ url: 'http://127.0.0.1:9', ...CLIENT });
    expect(await readOfficeDifferences({ ...app, office: gone }, teacher)).toEqual([]);
  });

  it('reads a list that is longer than one answer', async () => {
    const many = records();
    const [user] = many.users;
    const [enrolment] = many.enrollments;
    if (!user || !enrolment) throw new Error('no records');
    for (let n = 0; n < 450; n++) {
      const sourcedId = `more-${n}`;
      many.users.push({ ...user, sourcedId, givenName: `Given${n}` });
      many.enrollments.push({
        ...enrolment,
        sourcedId: `in-${n}`,
        user: { ...enrolment.user, sourcedId },
        class: { ...enrolment.class, sourcedId: 'cls-8c' },
      });
    }
    expect(await (await office(many)).students('cls-8c')).toHaveLength(474);
  });

  it('leaves out what the office says is to be deleted', async () => {
    const of = records();
    for (const one of of.classes) if (one.classCode === '8A') one.status = 'tobedeleted';
    expect((await (await office(of)).classes()).map(({ code }) => code)).not.toContain('8A');
  });

  it('knows the names people sign in by, and who may not', async () => {
    const of = records();
    const [first, second] = of.users.filter(({ sourcedId }) =>
      of.enrollments.some(
        (one) =>
          one.class.sourcedId === 'cls-8c' &&
          one.user.sourcedId === sourcedId &&
          one.role === 'student',
      ),
    );
    if (!first || !second) throw new Error('no records');
    // A text, as 1.1 has it.
    Object.assign(first, { enabledUser: 'false' });
    second.enabledUser = false;
    const students = await (await office(of)).students('cls-8c');
    const out = students.filter(({ enabled }) => enabled === false).map(({ officeId }) => officeId);
    expect(out.sort()).toEqual([first.sourcedId, second.sourcedId].sort());
    expect(students.every(({ signIn = '' }) => signIn !== '')).toBe(true);
  });

  it('asks for a new token when the old one is no longer taken', async () => {
    let now = Date.now();
    const url = await standIn(records(), () => now);
    const still = Date.now();
    const asked = new Office({ url, ...CLIENT }, () => still);
    await asked.classes();
    now += 2 * 3600 * 1000;
    expect(await asked.classes()).toHaveLength(4);
  });

  it('says so when the password is wrong, the class is gone, or nobody answers', async () => {
    const url = await standIn();
    await expect(new Office({ url, id: 'uncia', secret: 'no' }).classes()).rejects.toMatchObject({
      status: 502,
      message: expect.stringContaining('does not let Uncia in'),
    });
    await expect(new Office({ url, ...CLIENT }).students('gone')).rejects.toMatchObject({
      status: 404,
      message: expect.stringContaining('no longer has this class'),
    });
    for (const server of running) server.close();
    running.forEach((server) => server.closeAllConnections());
    await expect(new Office({ url, ...CLIENT }).classes()).rejects.toMatchObject({
      status: 503,
      message: expect.stringContaining('does not answer just now'),
    });
  });

  const token = JSON.stringify({ access_token: 'a', expires_in: 60 });
  const nonsense: [string, RequestListener][] = [
    ['no JSON', (_request, response) => response.end('<h1>Welcome</h1>')],
    ['an error', (_request, response) => response.writeHead(500).end('{}')],
    ['another shape', (_request, response) => response.end('{"classes":[{"name":5}]}')],
    [
      'a class without a number',
      (_request, response) => response.end('{"classes":[{"title":"8C"}]}'),
    ],
    ['a redirection', (_request, response) => response.writeHead(302, { location: '/x' }).end()],
    [
      'half an answer',
      (_request, response) => {
        response.writeHead(200, { 'content-length': '500' });
        response.write('{"classes":');
        setTimeout(() => response.destroy(), 20);
      },
    ],
    [
      'the same piece for ever',
      (_request, response) => {
        response.setHeader('x-total-count', '999999');
        response.end(
          JSON.stringify({
            classes: Array.from({ length: 200 }, () => ({ sourcedId: 'a', title: 'A' })),
          }),
        );
      },
    ],
  ];
  it.each(nonsense)('takes nothing from an office that answers %s', async (_what, answer) => {
    const url = await listen(
      createServer((request, response) =>
        request.url === '/token' ? response.end(token) : answer(request, response),
      ),
    );
    await expect(new Office({ url, ...CLIENT }).classes()).rejects.toMatchObject({
      message: expect.stringMatching(/Uncia cannot read|does not answer just now/),
    });
    const unusable = await listen(createServer(answer));
    await expect(new Office({ url: unusable, ...CLIENT }).classes()).rejects.toMatchObject({
      message: expect.stringMatching(/Uncia cannot read|does not answer just now/),
    });
  });
});
