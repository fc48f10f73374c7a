import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { useApp } from '../support/app';
import { bring, closeAs, filesBelow, makeArchive, unpack } from '../support/archives';
import { fullClass, type FullClass } from '../support/full-class';
import { makeSchool } from '../support/school';

const test = useApp();
let full: FullClass;
let files: Map<string, Buffer>;
let bytes: Buffer;

beforeAll(async () => {
  full = await fullClass(test.app);
  await closeAs(test.app, full.school.teacher, full.school.class);
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
    const pages = [...files.keys()].filter((path) => path.startsWith('data/students/'));
    expect(pages.map((path) => path.split('/').at(-1))).toEqual([
      'Boats.html',
      'Done or not.html',
      'For all.html',
      'My own notes.html',
      'Task 50 really.html',
      'To read.html',
    ]);
    const said = pages.map((path) => files.get(path)?.toString() ?? '').join('');
    for (const words of ['Mine alone.', 'from one', 'Nearly.', 'The one &quot;there&quot;.'])
      expect(said).toContain(words);
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
});
