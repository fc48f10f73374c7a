import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { RECORD_FILES, recordSchemas } from '../../src/lib/core/archive/record';
import { forgetForerunners, readPieces } from '../../src/lib/server/archive/archives';
import { useApp } from '../support/app';
import { bring, closeAs, filesBelow, makeArchive, unpack } from '../support/archives';
import { fullClass, type FullClass } from '../support/full-class';
import { makeSchool } from '../support/school';

const test = useApp();
let full: FullClass;
let zip: Buffer;

beforeAll(async () => {
  full = await fullClass(test.app);
  // By that they are known again.
  await test.app.db
    .updateTable('person')
    .set({ email: 'teacher@school.example' })
    .where('id', '=', full.school.teacher)
    .execute();
  await closeAs(test.app, full.school.teacher, full.school.class);
  zip = await makeArchive(test.app, {
    class: full.school.class,
    school: full.school.id,
    by: full.school.teacher,
  });
});

/** The digests of a bag’s files, by their paths. */
const manifestOf = (bag: string) => readFileSync(join(bag, 'manifest-sha256.txt'), 'utf8');

describe('an archive', () => {
  it('is a bag that sha256sum verifies (RFC 8493; GNU coreutils)', async () => {
    const bag = await unpack(zip);
    expect(readFileSync(join(bag, 'bagit.txt'), 'utf8')).toBe(
      'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n',
    );
    for (const list of ['manifest-sha256.txt', 'tagmanifest-sha256.txt'])
      execFileSync('sha256sum', ['--check', '--strict', '--quiet', list], { cwd: bag });
    const payload = [...filesBelow(join(bag, 'data'))];
    const bytes = payload.reduce((sum, [, { length }]) => sum + length, 0);
    expect(readFileSync(join(bag, 'bag-info.txt'), 'utf8')).toContain(
      `Payload-Oxum: ${bytes}.${payload.length}\n`,
    );
    expect(manifestOf(bag).trim().split('\n')).toHaveLength(payload.length);
  });

  it('holds records of the shape that is published with it', async () => {
    const bag = await unpack(zip);
    for (const [file, { holds, type }] of Object.entries(RECORD_FILES)) {
      const text = readFileSync(join(bag, 'data/record', file), 'utf8');
      const things: unknown[] =
        holds === 'lines'
          ? text
              .split('\n')
              .filter(Boolean)
              .map((line) => JSON.parse(line))
          : [JSON.parse(text)].flat();
      // Every file of this class says something.
      expect([file, things.length > 0]).toEqual([file, true]);
      for (const thing of things) expect(type.safeParse(thing).error?.issues ?? []).toEqual([]);
    }
  });

  it('holds nothing that a teacher collected for a copy and took off again', async () => {
    const all = [...filesBelow(await unpack(zip))];
    expect(all.filter(([, bytes]) => bytes.includes('SOMEBODY-ELSES'))).toEqual([]);
    // What a student removed is there, by its own copy.
    expect(all.filter(([path]) => /\/dot( \(2\))?\.png$/.test(path))).toHaveLength(2);
  });

  it('comes with its schema, which is the published one', async () => {
    const bag = await unpack(zip);
    for (const { name } of recordSchemas())
      expect(readFileSync(join(bag, 'data/record/schema', name), 'utf8')).toBe(
        readFileSync(join('docs/archive-schema', name), 'utf8'),
      );
  });

  it('is the same when it is made again, but for dates of the bag itself', async () => {
    const again = await makeArchive(test.app, {
      class: full.school.class,
      school: full.school.id,
      by: full.school.teacher,
    });
    const [one, two] = [await unpack(zip), await unpack(again)];
    expect(manifestOf(two)).toBe(manifestOf(one));
  });

  it('that is being downloaded arrives whole, though the next is finished meanwhile; later it makes room', async () => {
    const { app } = test;
    const { class: klass, id: school, teacher: by } = full.school;
    const archives = () =>
      app.db
        .selectFrom('archive')
        .select('id')
        .where('class_id', '=', klass)
        .where('finished_at', 'is not', null)
        .orderBy('made_at', 'desc')
        .execute();
    const was = await makeArchive(app, { class: klass, school, by });
    const [first] = await archives();
    const download = readPieces(app.db, first?.id ?? '');
    await makeArchive(app, { class: klass, school, by });
    const pieces: Buffer[] = [];
    for await (const piece of download) pieces.push(piece);
    expect(Buffer.concat(pieces).equals(was)).toBe(true);

    const [next] = await archives();
    expect(next).not.toEqual(first);
    await forgetForerunners(app.db, next?.id ?? '');
    expect(await archives()).toEqual([next]);
  });

  it('opens again, in this school and in another, and written once more is the same', async () => {
    const { app } = test;
    const other = await makeSchool(app, 2);
    for (const { school, teacher } of [
      { school: full.school.id, teacher: full.school.teacher },
      { school: other.id, teacher: other.teacher },
    ]) {
      const opened = await bring(app, teacher, zip);
      expect(opened.fault).toBeNull();
      const again = await makeArchive(app, { class: opened.class_id ?? '', school, by: teacher });
      const [was, is] = [filesBelow(await unpack(zip)), filesBelow(await unpack(again))];
      const differ = [...was].flatMap(([path, bytes]) =>
        is.get(path)?.equals(bytes) || /^(bag-info|tagmanifest)/.test(path) ? [] : path,
      );
      for (const path of differ)
        expect([path, is.get(path)?.toString()]).toEqual([path, was.get(path)?.toString()]);
      expect([...is.keys()]).toEqual([...was.keys()]);
    }
  });

  it('brings back the stamps of whoever is known here as those that they have', async () => {
    const { app } = test;
    const { school } = full;
    const stamps = () =>
      app.db.selectFrom('stamp').selectAll().where('school_id', '=', school.id).execute();
    const before = await stamps();
    const { class_id, fault } = await bring(app, school.teacher, zip);
    expect(fault).toBeNull();
    expect(await stamps()).toEqual(before);
    const put = await app.db
      .selectFrom('thread')
      .innerJoin('page', 'page.id', 'thread.page_id')
      .select('stamp')
      .where('class_id', '=', class_id)
      .where('stamp', 'is not', null)
      .execute();
    const own = put.filter(({ stamp }) => JSON.stringify(stamp).includes(before[0]?.id ?? '-'));
    expect([put.length, own.length]).toEqual([3, 2]);
  });

  it('of a class of nobody, in which nothing was done, is a bag, too, and opens again', async () => {
    const { app } = test;
    const empty = await makeSchool(app, 0);
    await closeAs(app, empty.teacher, empty.class);
    const of = { school: empty.id, by: empty.teacher };
    const bytes = await makeArchive(app, { class: empty.class, ...of });
    const opened = await bring(app, empty.teacher, bytes);
    expect(opened.fault).toBeNull();
    const again = await makeArchive(app, { class: opened.class_id ?? '', ...of });
    expect(manifestOf(await unpack(again))).toBe(manifestOf(await unpack(bytes)));
  });
});
