import { grantInClass, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { simpleParser } from 'mailparser';
import { sql } from 'kysely';
import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import ICAL from 'ical.js';
import { writeICalendar } from '../../src/lib/core/formats/icalendar';
import { plainSpec, type HandOutSpec } from '../../src/lib/core/handout/spec';
import {
  readDueTimes,
  findFeed,
  readSecret,
  renewSecret,
} from '../../src/lib/server/calendar/due-times';
import { closeClass, openClass } from '../../src/lib/server/class/open-class';
import { readCopy } from '../../src/lib/server/copy/facts';
import { beginThread } from '../../src/lib/server/copy/threads';
import {
  markRead,
  notify,
  readMailbox,
  setHearsHandIns,
  setMailRule,
} from '../../src/lib/server/message/messages';
import { find } from '../../src/lib/server/find/find';
import { notifyHandedOut, remind } from '../../src/lib/server/handout/notify-students';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn, opened, takeBack } from '../../src/lib/server/copy/moves';
import { beginOwnPage, copyReading } from '../../src/lib/server/copy/own-pages';
import { Mailer } from '../../src/lib/server/mail/mailer';
import { mailServer } from '../../standins/mail/mail';
import { useApp } from '../support/app';
import { atRest } from '../support/at-rest';
import { makeSchool, questionPage, type TestSchool } from '../support/school';
import { allowAs, changeAs, copyOf, handOutAs, withdrawAs } from '../support/deeds';
import { toComment, toWork, toSee, toMark, newPage } from '../support/grants';

const test = useApp();
let school: TestSchool;
let original: string;
const caught: Buffer[] = [];
const server = mailServer((mail) => caught.push(mail));
let mailer: Mailer;

beforeAll(async () => {
  school = await makeSchool(test.app, 3);
  original = await newPage(
    test.app.db,
    {
      in: { kind: 'original', course: school.course },
      title: 'Tide',
      at: new Date(),
    },
    questionPage(),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
  const { port } = server.server.address() as AddressInfo;
  mailer = new Mailer(test.app.db, { ...test.app.settings, MAIL_URL: `smtp://127.0.0.1:${port}` });
});
afterAll(async () => {
  await mailer.stop();
  server.close();
});

const at = (local: string) => ({ kind: 'at', local }) as const;
async function out(more: Partial<HandOutSpec> = {}) {
  const id = crypto.randomUUID();
  const spec = plainSpec(original, school.class, {
    title: 'Tide',
    due: at('2031-05-06T10:00'),
    ...more,
  });
  await handOutAs(test.app, { id, spec, by: school.teacher, at: new Date() });
  return { id, spec };
}
const pageOf = (assignment: string, student: number) =>
  copyOf(test.app, assignment, school.students[student] ?? '');
/** How many jobs wait to notify of an assignment. */
const jobsOf = async (assignment: string) =>
  (
    await sql`select from pgboss.job where data ->> 'assignment' = ${assignment}`.execute(
      test.app.db,
    )
  ).rows.length;
const subjects = async (person: string | undefined) =>
  (await readMailbox(test.app.db, person ?? '')).map(({ subject }) => subject);

describe('the mailbox', () => {
  it('says what was handed out, once, and when its due time is another', async () => {
    const { id, spec } = await out({ title: 'Told' });
    await notifyHandedOut(test.app, id);
    await notifyHandedOut(test.app, id);
    const told = async () =>
      (await subjects(school.students[0])).filter((one) => one.includes('Told'));
    expect(await told()).toEqual(['Handed out: Told']);
    const due = { ...spec, due: at('2031-05-07T10:00') };
    await changeAs(test.app, {
      assignment: id,
      spec: due,
      begin: 'original',
      by: school.teacher,
      at: new Date(),
    });
    await notifyHandedOut(test.app, id);
    await notifyHandedOut(test.app, id);
    expect((await told()).sort()).toEqual(['Handed out: Told', 'New due time: Told']);
  });

  it('follows a due time that is moved and moved back, each at their own time', async () => {
    const { id, spec } = await out({ title: 'Moved' });
    const [one = '', two = ''] = school.students;
    const moveTo = (local: string) =>
      changeAs(test.app, {
        assignment: id,
        spec: { ...spec, due: at(local) },
        begin: 'original',
        by: school.teacher,
        at: new Date(),
      });
    const texts = async (person: string) =>
      (await readMailbox(test.app.db, person))
        .filter(({ subject }) => subject.includes('Moved'))
        .map(({ text }) => text.replace('In 7A. It is due ', ''))
        .reverse();
    const twice = () => Promise.all([notifyHandedOut(test.app, id), notifyHandedOut(test.app, id)]);
    await twice();
    await moveTo('2031-05-07T10:00');
    await twice();
    await moveTo('2031-05-06T10:00');
    await twice();
    await moveTo('2031-05-07T10:00');
    await twice();
    const [tuesday, wednesday] = ['Tuesday 6 May, 10:00.', 'Wednesday 7 May, 10:00.'];
    expect(await texts(one)).toEqual([
      tuesday,
      `${wednesday} It was due ${tuesday}`,
      `${tuesday} It was due ${wednesday}`,
      `${wednesday} It was due ${tuesday}`,
    ]);
    // More time for one of them is news to that one alone; the class's next time is none to them then.
    const more = {
      by: school.teacher,
      assignment: id,
      class: school.class,
      student: two,
      note: '',
    };
    const due = new Date('2031-05-09T09:00:00Z');
    await allowAs(test.app, { ...more, kind: 'extension', due, at: new Date() });
    await twice();
    await moveTo('2031-05-08T10:00');
    await twice();
    expect((await texts(one)).at(-1)).toBe(`Thursday 8 May, 10:00. It was due ${wednesday}`);
    expect((await texts(two)).at(-1)).toBe(`Friday 9 May, 10:00. It was due ${wednesday}`);
    await allowAs(test.app, { ...more, kind: 'as for all', due: null, at: new Date() });
    await twice();
    expect((await texts(two)).at(-1)).toBe(
      'Thursday 8 May, 10:00. It was due Friday 9 May, 10:00.',
    );
  });

  it('reminds each before their own due time, and whoever took their work back', async () => {
    const { id } = await out({ title: 'Own time', reminder: 60 });
    const [one = '', two = '', three = ''] = school.students;
    const due = new Date('2031-05-09T09:00:00Z');
    await allowAs(test.app, {
      assignment: id,
      class: school.class,
      student: two,
      kind: 'extension',
      due,
      note: '',
      by: school.teacher,
      at: new Date(),
    });
    const work = await toWork(test.app, { page: await pageOf(id, 2), person: three });
    await handIn(test.app, work, '');
    await takeBack(test.app, work);
    const reminded = async () =>
      Promise.all(
        [one, two, three].map(async (who) => (await subjects(who)).includes('Due soon: Own time')),
      );
    const here = { assignment: id, class: school.class };
    await remind(test.app, here, Date.parse('2031-05-06T08:30:00Z'));
    expect(await reminded()).toEqual([true, false, true]);
    await remind(test.app, here, due.getTime() - 59 * 60_000);
    expect(await reminded()).toEqual([true, true, true]);
  });

  it('reminds, at the right time and only who has not handed in and is not excused', async () => {
    const { id } = await out({ title: 'Soon', reminder: 60 });
    await handIn(
      test.app,
      await toWork(test.app, { page: await pageOf(id, 0), person: school.students[0] ?? '' }),
      '',
    );
    const excused = {
      kind: 'excused',
      due: null,
      note: '',
      by: school.teacher,
      at: new Date(),
    } as const;
    await allowAs(test.app, {
      ...excused,
      assignment: id,
      class: school.class,
      student: school.students[1] ?? '',
    });
    const due = Date.parse('2031-05-06T09:00:00Z');
    const reminded = async () =>
      Promise.all(
        school.students.map(async (one) => (await subjects(one)).includes('Due soon: Soon')),
      );
    await remind(test.app, { assignment: id, class: school.class }, due - 61 * 60_000);
    expect(await reminded()).toEqual([false, false, false]);
    await remind(test.app, { assignment: id, class: school.class }, due - 59 * 60_000);
    await remind(test.app, { assignment: id, class: school.class }, due - 58 * 60_000);
    expect(await reminded()).toEqual([false, false, true]);
  });

  it('says that somebody is excused, and is not any more; more time says so', async () => {
    const { id } = await out({ title: 'Excused' });
    const [one = ''] = school.students;
    await notifyHandedOut(test.app, id);
    const allow = async (kind: 'excused' | 'as for all' | 'extension') => {
      const due = kind === 'extension' ? new Date('2031-05-09T09:00:00Z') : null;
      const to = { assignment: id, class: school.class, student: one, note: '' };
      await allowAs(test.app, { ...to, kind, due, by: school.teacher, at: new Date() });
      await Promise.all([notifyHandedOut(test.app, id), notifyHandedOut(test.app, id)]);
    };
    for (const kind of ['excused', 'as for all', 'extension', 'excused'] as const)
      await allow(kind);
    const about = (await subjects(one)).filter((subject) => subject.endsWith(': Excused'));
    expect(about.reverse()).toEqual([
      'Handed out: Excused',
      'You are excused: Excused',
      'Not excused any more: Excused',
      'More time: Excused',
      'You are excused: Excused',
    ]);
    expect(await subjects(school.students[1])).not.toContain('You are excused: Excused');
  });

  it('gathers for the staff what is handed in, as they choose, and comments on either side', async () => {
    const { id } = await out({ title: 'Gathered' });
    // All in the same moment: still one message, which counts each.
    await Promise.all(
      school.students.map(async (person, n) =>
        handIn(test.app, await toWork(test.app, { page: await pageOf(id, n), person }), ''),
      ),
    );
    const gathered = async (person: string) =>
      (await readMailbox(test.app.db, person)).filter(({ subject }) =>
        subject.includes('Gathered'),
      );
    expect(await gathered(school.teacher)).toMatchObject([
      { subject: 'Handed in: Gathered', text: 'In 7A, 3 times since you last looked.' },
    ]);
    const [one = ''] = school.students;
    const page = await pageOf(id, 0);
    const comment = async (person: string, text: string) =>
      beginThread(test.app, await toComment(test.app, { page, person }), { text, anchor: null });
    await Promise.all([comment(school.teacher, 'A'), comment(school.teacher, 'B')]);
    await comment(school.teacher, 'C');
    expect((await gathered(one)).map(({ subject }) => subject)).toContain('3 comments on Gathered');
    await markRead(test.app.db, one);
    await comment(one, 'Why?');
    expect((await gathered(school.teacher)).map(({ subject }) => subject)).toContain(
      'A comment on Gathered',
    );
    await setHearsHandIns(test.app.db, school.teacher, false);
    await markRead(test.app.db, school.teacher);
    const work = await toWork(test.app, { page, person: one });
    await takeBack(test.app, work);
    await handIn(test.app, work, '');
    expect((await gathered(school.teacher)).every(({ unread }) => !unread)).toBe(true);
    await setHearsHandIns(test.app.db, school.teacher, true);
  });

  it('holds what was handed out while the class was closed, once it opens', async () => {
    const lead = await grantInClass(test.app.db, 'manage the class', school.teacher, school.class);
    await closeClass(test.app, lead);
    const { id } = await out({ title: 'Behind closed doors' });
    await notifyHandedOut(test.app, id);
    expect(await subjects(school.students[0])).not.toContain('Handed out: Behind closed doors');
    const page = await pageOf(id, 0);
    const commenting = await toComment(test.app, { page, person: school.teacher });
    await beginThread(test.app, commenting, { text: 'Early.', anchor: null });
    expect((await subjects(school.students[0])).join()).not.toContain('Behind closed doors');
    const before = await jobsOf(id);
    await openClass(test.app, lead, new Date());
    expect(await jobsOf(id)).toBe(before + 1);
    await notifyHandedOut(test.app, id);
    expect(await subjects(school.students[0])).toContain('Handed out: Behind closed doors');
  });

  it('of who joined after its time does not say that work is overdue', async () => {
    const { id } = await out({ title: 'Before they came', due: at('2031-05-06T10:00') });
    const [one = '', two = ''] = school.students;
    const joined = (at: Date) =>
      test.app.db
        .updateTable('enrolment')
        .set({ joined_at: at })
        .where('class_id', '=', school.class)
        .where('person_id', '=', one)
        .execute();
    await joined(new Date('2031-05-07T08:00:00Z'));
    const dueOf = async (n: number, person: string) =>
      (await readCopy(test.app.db, await pageOf(id, n), person)).facts.due;
    expect(await dueOf(0, one)).toBeNull();
    expect(await dueOf(1, two)).not.toBeNull();
    const dueTimes = async (person: string) =>
      (await readDueTimes(test.app.db, person)).map(({ title }) => title);
    expect(await dueTimes(one)).not.toContain('Before they came');
    expect(await dueTimes(two)).toContain('Before they came');
    await joined(new Date());
  });

  it('says what came back', async () => {
    const { id } = await out({ title: 'Back' });
    const page = await pageOf(id, 0);
    await opened(test.app, await toSee(test.app, { page, person: school.students[0] ?? '' }));
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
    expect(await subjects(school.students[0])).toContain('Handed back: Back');
  });
});

describe('e-mail', () => {
  // What was handed out before is told by jobs.
  beforeEach(() => atRest(test.app));
  const NOON = Date.parse('2031-05-06T11:00:00Z');
  const told = (person: string, subject: string, cause: string) =>
    notify(test.app.db, {
      school: school.id,
      people: [person],
      fact: { kind: 'sentence', subject, text: 'A text.' },
      link: '/work',
      cause,
    });

  it('gathers what one person was told into one mail, and sends each thing once', async () => {
    const student = school.students[0] ?? '';
    const address = 'student1@school.example';
    await test.app.db
      .updateTable('person')
      .set({ email: address })
      .where('id', '=', student)
      .execute();
    await test.app.db.updateTable('message').set({ mailed_at: new Date() }).execute();
    await told(student, 'First: “ß”', 'mail 1');
    await told(student, 'Second', 'mail 2');
    await told(school.students[1] ?? '', 'To nobody', 'mail 3');
    await Promise.all([mailer.send(NOON), mailer.send(NOON)]);
    expect(caught).toHaveLength(1);
    const mail = await simpleParser(caught[0] ?? Buffer.from(''));
    expect(mail.subject).toBe('2 things from Uncia');
    expect(mail.text).toContain('First: “ß”\nA text.\nhttp://127.0.0.1:5180/work');
    expect(mail.text).toContain('Second');
    expect([mail.to].flat().map((to) => to?.text)).toEqual([address]);
    expect(await mailer.send(NOON)).toBe(0);
  });

  it('does not lead to work that was withdrawn meanwhile', async () => {
    const student = school.students[0] ?? '';
    caught.length = 0;
    const [gone, stays] = [await out({ title: 'Undone' }), await out({ title: 'It stays' })];
    for (const { id } of [gone, stays]) await notifyHandedOut(test.app, id);
    await withdrawAs(test.app, school.teacher, gone.id, school.class, true);
    await mailer.send(NOON);
    const mails = await Promise.all(caught.map(async (mail) => (await simpleParser(mail)).text));
    expect(mails.join()).toContain('It stays');
    expect(mails.join()).not.toContain('Undone');
    expect(await subjects(student)).toContain('Handed out: Undone');
  });

  it('waits for the morning, and is not sent to who does not want it', async () => {
    const student = school.students[0] ?? '';
    caught.length = 0;
    await told(student, 'At night', 'mail 4');
    expect(await mailer.send(Date.parse('2031-05-06T22:00:00Z'))).toBe(0);
    expect(await mailer.send(Date.parse('2031-05-07T07:00:00Z'))).toBe(1);
    await setMailRule(test.app.db, student, 'never');
    await told(student, 'Not wanted', 'mail 5');
    await mailer.send(NOON);
    expect(caught).toHaveLength(1);
    expect(await subjects(student)).toContain('Not wanted');
  });

  it('goes on to the others when an address is refused, and says so; what it refused for good is let go', async () => {
    const [one = '', two = ''] = school.students;
    const set = (id: string, email: string) =>
      test.app.db
        .updateTable('person')
        .set({ email, mails: 'gathered' })
        .where('id', '=', id)
        .execute();
    await set(one, 'refused@school.example');
    await set(two, 'taken@school.example');
    const heard: string[] = [];
    const picky = new SMTPServer({
      disabledCommands: ['AUTH', 'STARTTLS'],
      logger: false,
      onRcptTo: ({ address }, _session, callback) => {
        heard.push(address);
        callback(
          address.startsWith('refused')
            ? Object.assign(new Error('no'), { responseCode: 550 })
            : null,
        );
      },
      onData: (stream, _session, callback) => {
        stream.resume();
        stream.on('end', callback);
      },
    });
    await new Promise<void>((resolve) => picky.listen(0, '127.0.0.1', () => resolve()));
    const { port } = picky.server.address() as AddressInfo;
    const sender = new Mailer(test.app.db, {
      ...test.app.settings,
      MAIL_URL: `smtp://127.0.0.1:${port}`,
    });
    await told(one, 'To a bad address', 'mail 7');
    await told(two, 'To a good address', 'mail 8');
    expect(await sender.send(NOON)).toBe(1);
    expect(heard.sort()).toEqual(['refused@school.example', 'taken@school.example']);
    const { mail_fault } = await test.app.db
      .selectFrom('person')
      .select('mail_fault')
      .where('id', '=', one)
      .executeTakeFirstOrThrow();
    expect(mail_fault).toBe('The mail server answered 550.');
    // It is not sent again and again.
    expect(await sender.send(NOON + 3_600_000 * 30)).toBe(0);
    await sender.stop();
    await new Promise<void>((resolve) => picky.close(() => resolve()));
  });

  it('that is switched on later does not send the past', async () => {
    const student = school.students[1] ?? '';
    await told(student, 'Before there was mail', 'mail 9');
    const without = new Mailer(test.app.db, { ...test.app.settings, MAIL_URL: undefined });
    await without.send(NOON);
    caught.length = 0;
    await mailer.send(NOON);
    expect(caught).toEqual([]);
  });

  it('is kept, and tried again, when the mail server is away', async () => {
    const student = school.students[2] ?? '';
    await test.app.db
      .updateTable('person')
      .set({ email: 's3@school.example' })
      .where('id', '=', student)
      .execute();
    await told(student, 'Later', 'mail 6');
    const away = new Mailer(test.app.db, { ...test.app.settings, MAIL_URL: 'smtp://127.0.0.1:9' });
    await expect(away.send(NOON)).rejects.toThrow();
    await away.stop();
    caught.length = 0;
    await mailer.send(NOON);
    expect((await simpleParser(caught[0] ?? Buffer.from(''))).text).toContain('Later');
  });
});

describe('a person’s calendar', () => {
  const events = async (person: string) => {
    const text = writeICalendar(
      'x',
      await readDueTimes(test.app.db, person),
      'http://school',
      Date.now(),
    );
    const all = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent');
    return all.map((event) => ({
      uid: String(event.getFirstPropertyValue('uid')),
      summary: String(event.getFirstPropertyValue('summary')),
      status: event.getFirstPropertyValue('status'),
      sequence: Number(event.getFirstPropertyValue('sequence')),
      url: String(event.getFirstPropertyValue('url')),
      start: new ICAL.Event(event).startDate.toJSDate().toISOString(),
    }));
  };

  it('has what is due for her, each at her own time, and follows changes and withdrawals', async () => {
    const { id, spec } = await out({ title: 'Dated' });
    const [one, two] = school.students;
    const of = async (person: string | undefined) =>
      (await events(person ?? '')).find(({ uid }) => uid.startsWith(id));
    const first = await of(one);
    expect(first).toMatchObject({
      summary: '7A Course: Dated due',
      status: 'CONFIRMED',
      start: '2031-05-06T09:00:00.000Z',
      url: `http://school/work/${await pageOf(id, 0)}`,
    });
    expect((await of(school.teacher))?.url).toBe(
      `http://school/classes/${school.class}/assignments/${id}`,
    );
    expect(await of(school.otherStudent)).toBeUndefined();
    const due = new Date('2031-05-09T09:00:00Z');
    const later = new Date(Date.now() + 5000);
    await allowAs(test.app, {
      assignment: id,
      class: school.class,
      student: two ?? '',
      kind: 'extension',
      due,
      note: '',
      by: school.teacher,
      at: later,
    });
    expect((await of(two))?.start).toBe(due.toISOString());
    expect((await of(one))?.start).toBe('2031-05-06T09:00:00.000Z');
    await changeAs(test.app, {
      assignment: id,
      spec: { ...spec, due: at('2031-05-08T10:00') },
      begin: 'original',
      by: school.teacher,
      at: later,
    });
    const moved = await of(one);
    expect(moved?.start).toBe('2031-05-08T09:00:00.000Z');
    expect(moved?.uid).toBe(first?.uid);
    expect(moved?.sequence ?? 0).toBeGreaterThan(first?.sequence ?? 0);
    await withdrawAs(test.app, school.teacher, id, school.class, true);
    expect(await of(one)).toBeUndefined();
    expect(await of(school.teacher)).toBeUndefined();
  });

  it('is found by its secret alone, and not by one that was renewed', async () => {
    const person = { id: school.teacher, school_id: school.id };
    const secret = await readSecret(test.app.db, person);
    expect(await readSecret(test.app.db, person)).toBe(secret);
    expect((await findFeed(test.app.db, secret))?.id).toBe(school.teacher);
    const renewed = await renewSecret(test.app.db, person);
    expect(await findFeed(test.app.db, secret)).toBeUndefined();
    expect((await findFeed(test.app.db, renewed))?.id).toBe(school.teacher);
  });
});

describe('a student’s own pages', () => {
  const toTake = (app: App, page: string, student: string) =>
    grantOnPage(app, 'take a copy of the page', student, page);

  it('are begun or taken from what she may read, hers to write, her teachers’ to see, nobody else’s', async () => {
    const [one = '', two = ''] = school.students;
    const reading = await newPage(
      test.app.db,
      {
        in: { kind: 'class page', class: school.class, area: 'shelf' },
        title: 'Shelf',
        at: new Date(),
      },
      questionPage(),
    );
    const taken = await copyReading(test.app, await toTake(test.app, reading, one));
    expect((await test.app.pages.open(taken)).doc.eq(questionPage())).toBe(true);
    const workbook = await grantInClass(test.app.db, 'manage own workbook', one, school.class);
    const own = await beginOwnPage(test.app, workbook, 'My sea book');
    for (const page of [taken, own]) {
      const relations = [one, two, school.teacher, school.stranger].map(
        async (person) => (await test.app.findPage(person, page))?.relation,
      );
      expect(await Promise.all(relations)).toEqual(['writer', 'nobody', 'overseer', 'nobody']);
    }
    await expect(toTake(test.app, own, two)).rejects.toMatchObject({ status: 404 });
  });
});

describe('what was withdrawn', () => {
  it('is not found by its student any more', async () => {
    const { id } = await out({ title: 'Vanishing' });
    const [student = ''] = school.students;
    const person = {
      id: student,
      school_id: school.id,
      role: 'student' as const,
      given: '',
      family: '',
      called: '',
    };
    const titles = async () =>
      (await find(test.app.db, person, 'Vanishing')).map(({ title }) => title);
    expect(await titles()).toContain('Vanishing');
    await withdrawAs(test.app, school.teacher, id, school.class, true);
    expect(await titles()).toEqual([]);
  });
});
