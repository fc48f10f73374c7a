import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { compareRoster } from '../../src/lib/core/roster/compare-roster';
import { findClass, type ClassThing } from '../../src/lib/server/access/relation';
import { hashPassword } from '../../src/lib/server/access/password';
import { beginSession } from '../../src/lib/server/access/session';
import { signIn } from '../../src/lib/server/access/sign-in';
import { Refusal } from '../../src/lib/server/page/refusal';
import { readRosterChanges } from '../../src/lib/server/roster/apply-roster';
import { changeStudent, type OneStudent } from '../../src/lib/server/roster/one-student';
import { giveFirstPasswords } from '../../src/lib/server/roster/first-passwords';
import { readKnown, readOfficeClass } from '../../src/lib/server/roster/known';
import { readRosterFile } from '../../src/lib/server/roster/read-file';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { rosterAs, undoRosterAs } from '../support/deeds';
import { useApp } from '../support/app';
import { assign, makeSchool, type TestSchool } from '../support/school';
import { zip } from '../support/zip';

const test = useApp();
let school: TestSchool;
let klass: ClassThing;

beforeAll(async () => {
  school = await makeSchool(test.app, 3);
  const found = await findClass(test.app.db, school.teacher, school.class);
  if (!found) throw new Error('no class');
  klass = found.thing;
});

const keeping = () => grantInClass(test.app.db, 'manage the class', school.teacher, school.class);

const roster = () =>
  test.app.db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'left_at'])
    .where('class_id', '=', school.class)
    .orderBy('family')
    .orderBy('given')
    .execute();
const names = async () =>
  (await roster())
    .filter(({ left_at }) => left_at === null)
    .map(({ given, family }) => `${family}, ${given}`);

/** Looks at a file and applies all its changes, doubtful ones as somebody decides. */
async function bring(text: string | Buffer, as: 'same' | 'new' = 'same', whole = true) {
  const file = await readRosterFile(Buffer.from(text), { officeClass: null });
  const { entries, officeClass } = file;
  const { changes } = compareRoster(entries, await readKnown(test.app.db, klass), whole);
  const chosen = changes.map(({ key, kind }) => (kind === 'doubtful' ? { key, as } : { key }));
  return rosterAs(test.app, klass, {
    entries,
    officeClass,
    whole,
    chosen,
    by: school.teacher,
    source: 'a file',
  });
}
const CLASS = 'given,family\nstudent1,Person\nstudent2,Person\nstudent3,Person\n';

describe('a roster', () => {
  it('is brought up to date in one go, and undone to what it was', async () => {
    const before = await roster();
    expect(await bring(`${CLASS.replace('student3,Person', 'Zina,Okpara')}`)).toBe(2);
    expect(await names()).toEqual(['Okpara, Zina', 'Person, student1', 'Person, student2']);
    const [change] = await readRosterChanges(test.app.db, school.class);
    expect(change?.lines).toEqual([
      { did: 'joined', name: 'Okpara, Zina' },
      { did: 'left', name: 'Person, student3' },
    ]);
    await undoRosterAs(test.app, school.teacher, klass, change?.id ?? '');
    expect((await roster()).filter(({ left_at }) => left_at === null)).toEqual(before);
    await expect(
      undoRosterAs(test.app, school.teacher, klass, change?.id ?? ''),
    ).rejects.toMatchObject({
      status: 409,
    });
    // Who was undone is not made twice.
    await bring(`${CLASS}Zina,Okpara\n`);
    expect((await roster()).filter(({ given }) => given === 'Zina')).toHaveLength(1);
    await bring(CLASS);
  });

  it('of OneRoster shuts out whom it does not let sign in, lets in again, and gives its sign-in names to who is new', async () => {
    const { app } = test;
    const one = (enabled: string) =>
      zip({
        'classes.csv': 'sourcedId,title\nc,C\n',
        'enrollments.csv':
          'sourcedId,classSourcedId,userSourcedId,role\n1,c,s1,student\n2,c,s2,student\n3,c,s3,student\n4,c,s4,student\n',
        'users.csv': `sourcedId,givenName,familyName,username,enabledUser\ns1,student1,Person,,${enabled}\ns2,student2,Person,,\ns3,student3,Person,,\ns4,Kaisa,Tern,Kai.Tern,false\n`,
      });
    const password = 'a-password-of-theirs';
    const [first = ''] = school.students;
    const { sign_in_name } = await app.db
      .updateTable('person')
      .set({ password_hash: await hashPassword(password) })
      .where('id', '=', first)
      .returning('sign_in_name')
      .executeTakeFirstOrThrow();
    const mayEnter = async () =>
      'person' in
      (await signIn(app.db, app.limits, { name: sign_in_name, password, address: '::1' }));
    await beginSession(app.db, { id: first, school_id: school.id }, Date.now());
    const sessions = () =>
      app.db.selectFrom('session').select('id').where('person_id', '=', first).execute();
    expect(await mayEnter()).toBe(true);
    expect(await sessions()).not.toEqual([]);
    await bring(await one('false'));
    expect(await mayEnter()).toBe(false);
    expect(await sessions()).toEqual([]);
    expect(await names()).toContain('Person, student1');
    const made = await app.db
      .selectFrom('person')
      .select(['sign_in_name', 'disabled_at'])
      .where('school_id', '=', school.id)
      .where('given', '=', 'Kaisa')
      .executeTakeFirstOrThrow();
    expect(made.sign_in_name).toMatch(/^kai\.tern\d*$/);
    expect(made.disabled_at).not.toBeNull();
    const [change] = await readRosterChanges(app.db, school.class);
    expect(change?.lines).toContainEqual({ did: 'shut out', name: 'Person, student1' });
    await undoRosterAs(app, school.teacher, klass, change?.id ?? '');
    expect(await mayEnter()).toBe(true);
    await bring(await one('false'));
    await bring(await one('true'));
    expect(await mayEnter()).toBe(true);
    await bring(CLASS);
    await app.db.deleteFrom('office_map').where('school_id', '=', school.id).execute();
  });

  it('keeps the work of who leaves, and gives it back to who comes back', async () => {
    const { copies } = await assign(test.app, school);
    const third = school.students[2] ?? '';
    const relation = async () => (await test.app.findPage(third, copies[2] ?? ''))?.relation;
    await bring(CLASS.replace('student3,Person\n', ''));
    expect(await names()).not.toContain('Person, student3');
    const kept = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('student_id', '=', third)
      .execute();
    expect(kept.map(({ id }) => id)).toContain(copies[2]);
    await bring(CLASS);
    expect(await names()).toContain('Person, student3');
    expect(await relation()).toBe('owner');
  });

  it('changes nothing when one chosen line no longer fits', async () => {
    const before = await names();
    const file = await readRosterFile(Buffer.from(`${CLASS}Mira,Sand\n`), { officeClass: null });
    const spec = {
      entries: file.entries,
      officeClass: null,
      whole: true,
      by: school.teacher,
      source: 'a file',
      chosen: [{ key: 'joins new  Sand, Mira' }, { key: 'leaves nobody' }],
    };
    await expect(rosterAs(test.app, klass, spec)).rejects.toMatchObject({ status: 409 });
    expect(await names()).toEqual(before);
    const known = await readKnown(test.app.db, klass);
    expect(known.map(({ given }) => given)).not.toContain('Mira');
  });

  it('takes one person for the same or for another, as somebody decides', async () => {
    await bring(CLASS.replace('student1,Person', 'student1,Persson'), 'same');
    expect(await names()).toContain('Persson, student1');
    const [change] = await readRosterChanges(test.app.db, school.class);
    await undoRosterAs(test.app, school.teacher, klass, change?.id ?? '');
    expect(await names()).toContain('Person, student1');
    await bring('given,family\nstudent1,Persson\n', 'new', false);
    expect((await names()).filter((name) => name.includes('student1'))).toHaveLength(2);
    await bring(CLASS);
  });

  it('remembers which of the office’s people and classes is which', async () => {
    const files = {
      'classes.csv': 'sourcedId,title\noffice-7a,7A\noffice-7b,7B\n',
      'users.csv':
        'sourcedId,givenName,familyName\no1,student1,Person\no2,student2,Person\no3,student3,Person\n',
      'enrollments.csv':
        'sourcedId,classSourcedId,userSourcedId,role\ne1,office-7a,o1,student\ne2,office-7a,o2,student\ne3,office-7a,o3,student\n',
    };
    const first = await readRosterFile(await zip(files), { officeClass: null });
    expect([first.officeClass, first.officeClasses?.length]).toEqual([null, 2]);
    const chosen = await readRosterFile(await zip(files), { officeClass: 'office-7a' });
    await rosterAs(test.app, klass, {
      entries: chosen.entries,
      officeClass: 'office-7a',
      whole: true,
      chosen: [],
      by: school.teacher,
      source: 'a package',
    });
    expect(await readOfficeClass(test.app.db, school.class)).toBe('office-7a');
    // Now a new name of somebody known is a new name, however different.
    const renamed = files['users.csv'].replace('o2,student2,Person', 'o2,Wren,Yardley');
    const again = await readRosterFile(await zip({ ...files, 'users.csv': renamed }), {
      officeClass: await readOfficeClass(test.app.db, school.class),
    });
    const { changes } = compareRoster(again.entries, await readKnown(test.app.db, klass), true);
    expect(changes).toMatchObject([
      { kind: 'renamed', was: 'Person, student2', name: 'Yardley, Wren' },
    ]);
  });

  it('gives new students a name to sign in by and, once, a first password', async () => {
    await bring(`${CLASS}Óona,Kestrel\n`);
    const given = await giveFirstPasswords(test.app.db, await keeping());
    expect(given).toHaveLength(1);
    const [{ signInName, password } = { signInName: '', password: '' }] = given;
    expect(signInName).toBe('oona.kestrel');
    expect(await giveFirstPasswords(test.app.db, await keeping())).toEqual([]);
    const enter = (word: string) =>
      signIn(test.app.db, test.app.limits, { name: signInName, password: word, address: '::1' });
    expect(await enter('')).toHaveProperty('sentence');
    expect(await enter(password)).toHaveProperty('person');
  });
});

describe('a bad roster file', () => {
  /** A hundred kinds of bad: each is a fault on a good file, at a place that chance chooses. */
  const good = 'given,family,number\nViggo,Ekholm,1\nKaisa,Ilves,2\n';
  const oneRoster = {
    'classes.csv': 'sourcedId,title\nc,7A\n',
    'users.csv': 'sourcedId,givenName,familyName\nu,Viggo,Ekholm\n',
    'enrollments.csv': 'sourcedId,classSourcedId,userSourcedId,role\ne,c,u,student\n',
  };
  const without = (name: keyof typeof oneRoster) =>
    zip(Object.fromEntries(Object.entries(oneRoster).filter(([file]) => file !== name)));
  const climbing = async () => {
    const archive = await zip({ ...oneRoster, 'climbs.csv': 'x' });
    for (let at = archive.indexOf('climbs.csv'); at >= 0; at = archive.indexOf('climbs.csv'))
      archive.write('../../etc.', at, 'latin1');
    return archive;
  };
  const bad: fc.Arbitrary<() => Buffer | Promise<Buffer>> = fc.oneof(
    fc
      .nat({ max: good.length - 1 })
      .map(
        (at) => () =>
          Buffer.from(`${good.slice(0, at)}"${good.slice(at).replaceAll('\n', '\n"x')}`),
      ),
    fc
      .constantFrom('', '\n\n', 'a,b\n1,2\n', '{"students":[]}', '<html></html>', 'family,number\n')
      .map((text) => () => Buffer.from(text)),
    fc.uint8Array({ minLength: 1, maxLength: 400 }).map((bytes) => () => Buffer.from(bytes)),
    fc
      .uint8Array({ maxLength: 200 })
      .map((bytes) => () => Buffer.concat([Buffer.from('PK\x03\x04'), Buffer.from(bytes)])),
    fc.constant(() => Buffer.from(`given,family\n${'Viggo,Ekholm\n'.repeat(40_000)}`)),
    fc
      .constantFrom('=1+1', '@SUM(A1)', '+44', '-2+3')
      .map((cell) => () => Buffer.from(`given,family\n${cell},${cell}\n`)),
    fc
      .constantFrom<keyof typeof oneRoster>('classes.csv', 'users.csv', 'enrollments.csv')
      .map((name) => () => without(name)),
    fc.constant(climbing),
    fc.nat({ max: 60 }).map((cut) => async () => (await zip(oneRoster)).subarray(0, -1 - cut)),
  );

  it('never changes the roster and always gets a sentence that helps, a hundred times', async () => {
    const before = await roster();
    const people = await readKnown(test.app.db, klass);
    let files = 0;
    const check = async (make: () => Buffer | Promise<Buffer>) => {
      files += 1;
      const bytes = await make();
      await readRosterFile(bytes, { officeClass: null }).then(
        // Some faults leave lines that can be read: then the others are named by their line.
        (file) => expect(file.bad.length + file.entries.length).toBeGreaterThan(0),
        (error) => {
          expect(error).toBeInstanceOf(Refusal);
          expect(String(error.message)).toMatch(/^[A-Z“].{20,}[.?]$/s);
        },
      );
    };
    await fc.assert(fc.asyncProperty(bad, check), { numRuns: 120 });
    await check(() => zip({ ...oneRoster, 'users.csv': Buffer.alloc(120_000_000) }));
    expect(files).toBeGreaterThan(100);
    expect(await roster()).toEqual(before);
    expect(await readKnown(test.app.db, klass)).toEqual(people);
  });
});

describe('one student', () => {
  const change = async (spec: z.infer<typeof OneStudent>) =>
    changeStudent(test.app, await keeping(), spec);
  const whoIs = async (id: string) =>
    test.app.db
      .selectFrom('person')
      .select(['given', 'family', 'email'])
      .where('id', '=', id)
      .executeTakeFirstOrThrow();

  it('is corrected, leaves and comes back without a file, and each is undone', async () => {
    const [{ id = '', given = '', family = '' } = {}] = await roster();
    const before = await whoIs(id);
    const is = { given: 'Ada “Mae”', family: "O'Neil", email: 'ada@school.example' };
    await change({ does: 'is corrected', student: id, ...is });
    expect(await whoIs(id)).toEqual(is);
    await change({ does: 'leaves', student: id });
    await change({ does: 'leaves', student: id });
    expect(await names()).not.toContain(`${is.family}, ${is.given}`);
    await change({ does: 'comes back', student: id });
    expect(await names()).toContain(`${is.family}, ${is.given}`);
    const undo = async () => {
      const [newest] = (await readRosterChanges(test.app.db, school.class)).filter(
        ({ undone }) => !undone,
      );
      await undoRosterAs(test.app, school.teacher, klass, newest?.id ?? '');
    };
    await undo();
    expect(await names()).not.toContain(`${is.family}, ${is.given}`);
    await undo();
    await undo();
    expect(await whoIs(id)).toEqual(before);
    expect(await names()).toContain(`${family}, ${given}`);
  });

  it('of another class is none of this one', async () => {
    await expect(change({ does: 'leaves', student: school.otherStudent })).rejects.toMatchObject({
      status: 404,
    });
  });
});
