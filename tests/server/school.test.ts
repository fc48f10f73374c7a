import { beforeAll, describe, expect, it } from 'vitest';
import { openMessage, notify, readMailbox } from '../../src/lib/server/message/messages';
import {
  dropStretch,
  readHolidays,
  readTerms,
  writeStretch,
} from '../../src/lib/server/school/calendar';
import { useApp } from '../support/app';
import { makeSchool, type TestSchool } from '../support/school';
import { ofOffice } from '../support/grants';

const test = useApp();
let school: TestSchool;
let other: TestSchool;

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  other = await makeSchool(test.app, 1);
});

describe('the school’s calendar', () => {
  const spring = { id: null, name: 'Spring', starts: '2027-01-04', ends: '2027-03-26' };

  it('takes terms that do not overlap, changes them, and keeps those that classes run in', async () => {
    const { db } = test.app;
    await writeStretch(db, await ofOffice(db, school.office), 'term', spring);
    const overlapping = { ...spring, name: 'Also', starts: '2027-03-26', ends: '2027-06-01' };
    await expect(
      writeStretch(db, await ofOffice(db, school.office), 'term', overlapping),
    ).rejects.toThrow(/Spring/);
    const terms = await readTerms(db, school.id);
    expect(terms.map(({ name }) => name)).toEqual(['Term', 'Spring']);
    const id = terms[1]?.id ?? '';
    await writeStretch(db, await ofOffice(db, school.office), 'term', {
      ...spring,
      id,
      ends: '2027-04-02',
    });
    expect((await readTerms(db, school.id))[1]?.ends).toBe('2027-04-02');
    await expect(
      dropStretch(db, await ofOffice(db, school.office), 'term', terms[0]?.id ?? ''),
    ).rejects.toMatchObject({
      status: 409,
    });
    await dropStretch(db, await ofOffice(db, school.office), 'term', id);
    expect(await readTerms(db, school.id)).toHaveLength(1);
  });

  it('of one school is not changed by another', async () => {
    const { db } = test.app;
    const holiday = { id: null, name: 'Half term', starts: '2026-10-26', ends: '2026-10-30' };
    await writeStretch(db, await ofOffice(db, school.office), 'holiday', holiday);
    const id = (await readHolidays(db, school.id))[0]?.id ?? '';
    await writeStretch(db, await ofOffice(db, other.office), 'holiday', {
      ...holiday,
      id,
      name: 'Mine now',
    });
    await dropStretch(db, await ofOffice(db, other.office), 'holiday', id);
    expect((await readHolidays(db, school.id)).map(({ name }) => name)).toEqual(['Half term']);
  });
});

describe('the mailbox', () => {
  it('tells nobody of the same thing twice, and is each person’s own', async () => {
    const { db } = test.app;
    const [one = '', two = ''] = school.students;
    const news = {
      school: school.id,
      fact: { kind: 'sentence', subject: 'S', text: 'T' } as const,
      link: '/work',
      cause: 'a cause',
    };
    await notify(db, { ...news, people: [one] });
    await notify(db, { ...news, people: [one, two] });
    const [message] = await readMailbox(db, one);
    expect(await readMailbox(db, one)).toHaveLength(1);
    expect(await readMailbox(db, two)).toHaveLength(1);
    expect(await openMessage(db, two, message?.id ?? '')).toBeNull();
    expect((await readMailbox(db, one))[0]?.unread).toBe(true);
    expect(await openMessage(db, one, message?.id ?? '')).toBe('/work');
    expect((await readMailbox(db, one))[0]?.unread).toBe(false);
  });
});
