import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { beginTakeHome } from '../../src/lib/server/archive/archives';
import { storeUnits } from '../../src/lib/server/closing/store-units';
import { useApp } from '../support/app';
import { bring, closeAs, filesBelow, makeArchive, unpack } from '../support/archives';
import { fullClass, type FullClass } from '../support/full-class';
import { inClass } from '../support/grants';
import { makeSchool } from '../support/school';

const test = useApp();
let full: FullClass;
let files: Map<string, Buffer>;
let bytes: Buffer;

beforeAll(async () => {
  full = await fullClass(test.app);
  await closeAs(test.app, full.school.teacher, full.school.class, '2999-01-31');
  const [one = ''] = full.school.students;
  bytes = await makeArchive(test.app, {
    class: full.school.class,
    student: one,
    school: full.school.id,
    by: one,
  });
  files = filesBelow(await unpack(bytes));
});

describe('what a student takes home', () => {
  it('is all of their own work, theirs alone and shared', () => {
    const theirs = [...files.keys()].filter((path) => path.startsWith('data/students/'));
    const pages = theirs.filter((path) => path.endsWith('.html'));
    expect(pages.map((path) => path.split('/').at(-1))).toEqual([
      'A test.html',
      'Boats.html',
      'Done or not.html',
      'Each says done.html',
      'For all.html',
      'My own notes.html',
      'Scored by many.html',
      'Task 50 really.html',
      'To read.html',
    ]);
    // What was attached, or went with a comment, lies beside them; what was removed, or is for staff, does not.
    const attached = theirs.filter((path) => !path.endsWith('.html'));
    expect(attached.map((path) => path.split('/').at(-1))).toEqual([
      'Notes 50 é.md',
      'Shown.png',
      'dot.png',
    ]);
    expect(String(files.get(attached[0] ?? ''))).toContain('Two metres at the steps.');
    const said = pages.map((path) => files.get(path)?.toString() ?? '').join('');
    for (const words of ['Mine alone.', 'from one', 'Nearly.', 'The one &quot;there&quot;.'])
      expect(said).toContain(words);
  });

  it('has what they scored themselves, what came back of what a classmate gave, and the stamps they got', () => {
    const path = [...files.keys()].find((one) => one.endsWith('Scored by many.html')) ?? '';
    const page = String(files.get(path));
    for (const words of ['Own scoring', 'I gave it two, says 0.', 'Well read, classmate.'])
      expect(page).toContain(words);
    const [, stamp = ''] = /<img src="([^"]+)" alt="" width/.exec(page) ?? [];
    expect(
      files
        .get(join(path, '..', stamp))
        ?.subarray(1, 4)
        .toString(),
    ).toBe('PNG');
    // Of what classmates gave, the record to be opened again knows nothing.
    const given = String(files.get('data/record/student-scorings.ndjson')).trim().split('\n');
    expect(given.map((line) => JSON.parse(line).by_page)).toEqual([null]);
    expect(String(files.get('data/record/scorings-apart.ndjson'))).toBe('');
  });

  it('holds nothing of anybody else: no name, address, number or id', async () => {
    const [one = '', ...others] = full.school.students;
    const people = await test.app.db
      .selectFrom('person')
      .select(['id', 'given', 'family', 'email', 'sign_in_name'])
      .where('id', 'in', [...others, full.school.otherStudent, full.school.office])
      .execute();
    const pages = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('class_id', '=', full.school.class)
      .where('student_id', 'in', others)
      .execute();
    const all = [...files]
      .map(([path, content]) => `${path}\n${content.toString('latin1')}\n${content.toString()}`)
      .join('\n');
    // Her own name differs from another's by case alone.
    const own = /O’Abernathy "Quill"|Isla/g;
    const found = people
      .flatMap(({ id, family, email, sign_in_name }) => [id, family, email, sign_in_name])
      .filter((word) => word !== '' && word !== 'Person' && all.replace(own, '').includes(word));
    expect(found).toEqual([]);
    for (const { id } of pages) expect(all).not.toContain(id);
    expect(all).not.toContain(one);
  });

  it('holds nothing of the staff’s: no key, private note, kept-back score or how an original was written', () => {
    const all = [...files.values()].map(String).join('\n');
    for (const secret of [
      'SECRET-KEY',
      'PRIVATE-NOTE',
      'KEPT-BACK',
      '"ill"',
      'Put away',
      'Taken back',
    ])
      expect([secret, all.includes(secret)]).toEqual([secret, false]);
    expect([...files.keys()].filter((path) => /materials|gradebook|roster/.test(path))).toEqual([]);
  });

  it('is a bag, whose pages show their pictures, and opens again', async () => {
    const path = [...files.keys()].find((one) => one.endsWith('Task 50 really.html')) ?? '';
    const src = /<img src="([^"]+)"/.exec(files.get(path)?.toString() ?? '')?.[1] ?? '';
    const picture = join(path, '..', src);
    expect(files.get(picture)?.subarray(1, 4).toString()).toBe('PNG');
    const other = await makeSchool(test.app, 0);
    const opened = await bring(test.app, other.teacher, bytes);
    expect(opened.fault).toBeNull();
    const again = await makeArchive(test.app, {
      class: opened.class_id ?? '',
      school: other.id,
      by: other.teacher,
    });
    const copies = filesBelow(await unpack(again));
    const words = [...copies].find(([one]) => one.endsWith('My own notes.html'))?.[1].toString();
    expect(words).toContain('Mine alone.');
  });

  it('holds nothing that lies in the cupboard while the class runs, and is begun once of twenty', async () => {
    const { app } = test;
    const running = await fullClass(app);
    const { class: klass, id, students } = running.school;
    const [one = ''] = students;
    const lead = await inClass(app.db, klass);
    const { unit_id } = await app.db
      .selectFrom('assignment_class')
      .select('unit_id')
      .where('assignment_id', '=', running.task.assignment)
      .executeTakeFirstOrThrow();
    await storeUnits(app, lead, [unit_id ?? ''], true);
    const made = await makeArchive(app, { class: klass, student: one, school: id, by: one });
    const names = [...filesBelow(await unpack(made)).keys()].join('\n');
    expect(names).toContain('My own notes.html');
    expect(names).not.toContain('Task 50 really.html');
    await storeUnits(app, lead, [unit_id ?? ''], false);
    const again = await makeArchive(app, { class: klass, student: one, school: id, by: one });
    expect([...filesBelow(await unpack(again)).keys()].join('\n')).toContain('Task 50 really.html');

    const grant = await grantInClass(app.db, 'see own workbook', students[1] ?? '', klass);
    const noJobs = { db: app.db, jobs: { put: async () => undefined } as never };
    await Promise.all(Array.from({ length: 20 }, () => beginTakeHome(noJobs, grant)));
    const begun = await app.db
      .selectFrom('archive')
      .select('id')
      .where('class_id', '=', klass)
      .where('student_id', '=', students[1] ?? '')
      .execute();
    expect(begun).toHaveLength(1);
  });
});
