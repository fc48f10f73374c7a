import { describe, expect, it } from 'vitest';
import { beginSession, endSession, signIn } from '../../src/lib/server/access/session';
import { isSetUpLink, makeSetUpLink, useSetUpLink } from '../../src/lib/server/school/first';
import { useApp } from '../support/app';
import { makeSchool, PASSWORD } from '../support/school';

const test = useApp();
const NOW = Date.parse('2026-11-25T09:00:00Z');

describe('signing in', () => {
  it('takes the right password only, in any case of the name', async () => {
    const { id, teacher } = await makeSchool(test.app, 0);
    const name = `teacher${id}`;
    expect(await signIn(test.app.db, ` ${name.toUpperCase()} `, PASSWORD, 'a', NOW)).toMatchObject({
      person: { id: teacher },
    });
    expect(await signIn(test.app.db, name, `${PASSWORD}!`, 'a', NOW)).toHaveProperty('sentence');
    expect(await signIn(test.app.db, 'nobody.at.all', PASSWORD, 'a', NOW)).toHaveProperty(
      'sentence',
    );
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
    await endSession(test.app.db, token);
    expect(await test.app.whoIs({ token, now: NOW })).toBeNull();
  });

  it('makes one wait after five wrong tries, longer each time, from that address with that name only', async () => {
    const { id } = await makeSchool(test.app, 0);
    const name = `teacher${id}`;
    const attempt = (password: string, at: number, address = 'here') =>
      signIn(test.app.db, name, password, address, at);
    for (let i = 0; i < 5; i++)
      expect(await attempt('wrong', NOW)).toMatchObject({
        sentence: expect.stringContaining('do not belong'),
      });
    expect(await attempt(PASSWORD, NOW)).toMatchObject({
      sentence: 'Too many tries with this name. Please try again in 5 seconds.',
    });
    expect(await attempt(PASSWORD, NOW, 'elsewhere')).toHaveProperty('person');
    expect(await attempt('wrong', NOW + 5000)).toMatchObject({
      sentence: expect.stringContaining('do not belong'),
    });
    expect(await attempt(PASSWORD, NOW + 9000)).toMatchObject({
      sentence: expect.stringContaining('6 seconds'),
    });
    expect(await attempt(PASSWORD, NOW + 15_000)).toHaveProperty('person');
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
    expect(await signIn(test.app.db, 'sol', first.password, 'a', NOW)).toMatchObject({
      person: { role: 'office' },
    });
  });

  it('has one link at a time', async () => {
    const earlier = await makeSetUpLink(test.app.db, 'Europe/Dublin');
    await makeSetUpLink(test.app.db, 'Europe/Dublin');
    expect(await isSetUpLink(test.app.db, earlier)).toBe(false);
  });
});
