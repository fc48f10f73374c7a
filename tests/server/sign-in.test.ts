import { describe, expect, it } from 'vitest';
import { beginSession, endSessions, sessionOf } from '../../src/lib/server/access/session';
import { rememberBrowser, signIn } from '../../src/lib/server/access/sign-in';
import { isSetUpLink, makeSetUpLink, useSetUpLink } from '../../src/lib/server/school/first';
import { useApp } from '../support/app';
import { makeSchool, PASSWORD } from '../support/school';

const test = useApp();
const NOW = Date.parse('2026-11-25T09:00:00Z');

const enter = (name: string, password: string) =>
  signIn(test.app.db, test.app.limits, { name, password, address: '2001:db8::1' });

describe('signing in', () => {
  it('takes the right password only, in any case of the name', async () => {
    const { id, teacher } = await makeSchool(test.app, 0);
    const name = `teacher${id}`;
    expect(await enter(` ${name.toUpperCase()} `, PASSWORD)).toMatchObject({
      person: { id: teacher },
    });
    expect(await enter(name, `${PASSWORD}!`)).toHaveProperty('sentence');
    expect(await enter('nobody.at.all', PASSWORD)).toHaveProperty('sentence');
  });

  it('keeps passwords as argon2id and session tokens as hashes', async () => {
    const { teacher, id } = await makeSchool(test.app, 0);
    const { password_hash } = await test.app.db
      .selectFrom('person')
      .select('password_hash')
      .where('id', '=', teacher)
      .executeTakeFirstOrThrow();
    expect(password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    const { token } = await beginSession(test.app.db, { id: teacher, school_id: id }, NOW);
    const kept = await test.app.db
      .selectFrom('session')
      .select('id')
      .where('person_id', '=', teacher)
      .execute();
    expect(kept.some((session) => session.id.includes(token))).toBe(false);
    expect(await test.app.whoIs({ token, now: NOW })).toMatchObject({ id: teacher });
    expect(await test.app.whoIs({ token, now: NOW + 15 * 86_400_000 })).toBeNull();
    expect(await test.app.whoIs({ token, now: NOW + 11 * 3_600_000 })).toMatchObject({
      id: teacher,
    });
    expect(await test.app.whoIs({ token, now: NOW + 24 * 3_600_000 })).toBeNull();
    const ending = { only: sessionOf(token) };
    await endSessions(test.app.db, teacher, ending);
    expect(await test.app.whoIs({ token, now: NOW })).toBeNull();
  });

  it('counts wrong tries by account, wherever they come from, and never locks out a browser that is known', async () => {
    const school = await makeSchool(test.app, 0);
    const known = await rememberBrowser(
      test.app.db,
      { id: school.teacher, school_id: school.id },
      undefined,
    );
    const name = `teacher${school.id}`;
    const attempt = (password: string, address: string, browser?: string) =>
      signIn(test.app.db, test.app.limits, { name, password, address, known: browser });
    for (let i = 0; i < 10; i++)
      expect(await attempt('wrong', `198.51.${i}.1`)).toMatchObject({
        sentence: expect.stringContaining('do not belong'),
      });
    expect(await attempt(PASSWORD, '198.51.77.1')).toMatchObject({
      sentence: expect.stringMatching(/^Too many tries.* in 1[45] minutes/),
    });
    expect(await attempt(PASSWORD, '198.51.77.1', 'not-their-cookie')).toHaveProperty('sentence');
    expect(await attempt(PASSWORD, '198.51.77.1', known)).toHaveProperty('person');
    // That browser is no way to guess either.
    for (let i = 0; i < 10; i++) await attempt('wrong', '198.51.78.1', known);
    expect(await attempt(PASSWORD, '198.51.78.1', known)).toHaveProperty('sentence');
  });

  it('counts wrong tries by address and by range, whatever names they name', async () => {
    const school = await makeSchool(test.app, 0);
    const attempt = (name: string, address: string, password = 'wrong') =>
      signIn(test.app.db, test.app.limits, { name, password, address });
    for (let i = 0; i < 60; i++) await attempt(`somebody${i}`, '192.0.2.9');
    expect(await attempt(`teacher${school.id}`, '192.0.2.9', PASSWORD)).toMatchObject({
      sentence: expect.stringContaining('Too many tries'),
    });
    expect(await attempt(`teacher${school.id}`, '192.0.2.10', PASSWORD)).toHaveProperty('person');
    for (let i = 0; i < 140; i++) await attempt(`anybody${i}`, `192.0.2.${20 + (i % 50)}`);
    expect(await attempt(`marker${school.id}`, '192.0.2.200', PASSWORD)).toHaveProperty('sentence');
    expect(await attempt(`marker${school.id}`, '192.0.3.200', PASSWORD)).toHaveProperty('person');
  });

  it('lets twenty at once not past together', async () => {
    const school = await makeSchool(test.app, 0);
    const tries = Array.from({ length: 20 }, () =>
      signIn(test.app.db, test.app.limits, {
        name: `teacher${school.id}`,
        password: 'wrong',
        address: '203.0.113.1',
      }),
    );
    const said = (await Promise.all(tries)).map((one) => ('sentence' in one ? one.sentence : ''));
    expect(said.filter((one) => one.startsWith('Too many tries'))).toHaveLength(10);
  });
});

describe('the first administrator', () => {
  it('uses a link once', async () => {
    const token = await makeSetUpLink(test.app.db, 'Europe/Dublin');
    expect(await isSetUpLink(test.app.db, token)).toBe(true);
    const first = {
      school: 'North',
      given: 'Sol',
      family: 'Petrakis',
      signInName: 'sol',
      password: 'long enough it is',
    };
    await useSetUpLink(test.app.db, token, first);
    expect(await isSetUpLink(test.app.db, token)).toBe(false);
    await expect(
      useSetUpLink(test.app.db, token, { ...first, signInName: 'sol2' }),
    ).rejects.toThrow('used already');
    expect(await enter('sol', first.password)).toMatchObject({
      person: { role: 'office' },
    });
  });

  it('has one link at a time', async () => {
    const earlier = await makeSetUpLink(test.app.db, 'Europe/Dublin');
    await makeSetUpLink(test.app.db, 'Europe/Dublin');
    expect(await isSetUpLink(test.app.db, earlier)).toBe(false);
  });
});
