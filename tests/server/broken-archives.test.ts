import { createHash } from 'node:crypto';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { beforeAll, describe, expect, it } from 'vitest';
import { useApp } from '../support/app';
import { bring, closeAs, filesBelow, makeArchive, unpack } from '../support/archives';
import { fullClass, type FullClass } from '../support/full-class';
import { makeSchool } from '../support/school';
import { zip } from '../support/zip';

const test = useApp();
let full: FullClass;
let whole: Buffer;
let teacher = '';

beforeAll(async () => {
  full = await fullClass(test.app);
  await closeAs(test.app, full.school.teacher, full.school.class);
  whole = await makeArchive(test.app, {
    class: full.school.class,
    school: full.school.id,
    by: full.school.teacher,
  });
  ({ teacher } = await makeSchool(test.app, 0));
});

const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

/** Packs what lies in a folder; where its manifests are to fit again, they are written anew. */
async function packed(bag: string, fits: boolean): Promise<Buffer> {
  if (fits) {
    const list = (paths: [string, Buffer][]) =>
      paths.map(([path, bytes]) => `${digest(bytes)}  ${path}\n`).join('');
    const files = [...filesBelow(bag)];
    writeFileSync(
      join(bag, 'manifest-sha256.txt'),
      list(files.filter(([path]) => path.startsWith('data/'))),
    );
    const tags = ['bagit.txt', 'bag-info.txt', 'manifest-sha256.txt'].map(
      (path): [string, Buffer] => [path, readFileSync(join(bag, path))],
    );
    writeFileSync(join(bag, 'tagmanifest-sha256.txt'), list(tags));
  }
  return zip(
    Object.fromEntries([...filesBelow(bag)].map(([path, bytes]) => [`bag/${path}`, bytes])),
  );
}
/** The archive with something changed in it. */
async function changed(change: (bag: string) => void, { fits = true } = {}): Promise<Buffer> {
  const bag = await unpack(whole);
  change(bag);
  return packed(bag, fits);
}
const inFile = (file: string, replace: (text: string) => string) => (bag: string) => {
  const path = join(bag, file);
  const text = readFileSync(path, 'utf8');
  const becomes = replace(text);
  expect(becomes).not.toBe(text);
  writeFileSync(path, becomes);
};
/** In the first line of a record that has it. */
const inRecord = (file: string, from: string | RegExp, to: string) =>
  inFile(`data/record/${file}`, (text) => text.replace(from, to));

/** An archive of one file, whose name and size say what the test wants. */
function handMade(name: string, bytes: Buffer, size = bytes.length): Buffer {
  const data = deflateRawSync(bytes, { level: 9 });
  const path = Buffer.from(name);
  const shared = Buffer.alloc(26);
  shared.writeUInt16LE(20, 0);
  shared.writeUInt16LE(8, 4);
  shared.writeUInt32LE(data.length, 14);
  shared.writeUInt32LE(size, 18);
  shared.writeUInt16LE(path.length, 22);
  const local = Buffer.concat([Buffer.from('PK\x03\x04'), shared, path, data]);
  const central = Buffer.concat([
    Buffer.from('PK\x01\x02\x14\x00', 'latin1'),
    shared,
    Buffer.alloc(14),
    path,
  ]);
  const end = Buffer.alloc(22);
  end.write('PK\x05\x06', 'latin1');
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length, 12);
  end.writeUInt32LE(local.length, 16);
  return Buffer.concat([local, central, end]);
}

const things = async () => {
  const count = async (table: 'class' | 'page' | 'person' | 'step' | 'course' | 'file') =>
    Number(
      (
        await test.app.db
          .selectFrom(table)
          .select((eb) => eb.fn.countAll().as('n'))
          .executeTakeFirstOrThrow()
      ).n,
    );
  return Promise.all((['class', 'page', 'person', 'step', 'course', 'file'] as const).map(count));
};

const BROKEN: [string, () => Promise<Buffer> | Buffer, RegExp][] = [
  [
    'a flipped byte',
    () =>
      changed(
        (bag) => {
          const path = join(bag, 'data/record/steps.ndjson');
          const bytes = readFileSync(path);
          bytes[100] = (bytes[100] ?? 0) ^ 1;
          writeFileSync(path, bytes);
        },
        { fits: false },
      ),
    /steps\.ndjson” is not as it was written/,
  ],
  [
    'a flipped byte of the zip itself',
    () => {
      const bytes = Buffer.from(whole);
      const from = bytes.indexOf('data/record/steps.ndjson') + 200;
      for (let at = from; at < from + 40; at++) bytes[at] = (bytes[at] ?? 0) ^ 0xff;
      return bytes;
    },
    /not as it was written|damaged/,
  ],
  [
    'a missing file',
    () => changed((bag) => rmSync(join(bag, 'data/gradebook.csv')), { fits: false }),
    /gradebook\.csv” is missing/,
  ],
  [
    'a file too many',
    () => changed((bag) => writeFileSync(join(bag, 'data/more.txt'), 'x'), { fits: false }),
    /more\.txt” does not belong to it/,
  ],
  [
    'a manifest that is not the one that was written',
    () =>
      changed(
        inFile('bag-info.txt', (text) => `${text}More: x\n`),
        { fits: false },
      ),
    /bag-info\.txt” is not as it was written/,
  ],
  ['a path that climbs', () => handMade('../../evil.txt', Buffer.from('x')), /lie outside/],
  ['an absolute path', () => handMade('/etc/evil.txt', Buffer.from('x')), /lie outside/],
  [
    'a bomb that says its size',
    () => handMade('bag/data/zeros', Buffer.alloc(50_000_000)),
    /too large/,
  ],
  [
    'a bomb that does not',
    () => handMade('bag/bagit.txt', Buffer.alloc(50_000_000), 60),
    /not a BagIt bag|damaged|too large|not as it was written/,
  ],
  ['no zip at all', () => Buffer.from('just text'), /no zip archive/],
  ['another zip', () => zip({ 'a/b.txt': 'x' }), /not a BagIt bag/],
  [
    'a bag of somebody else',
    () => changed((bag) => rmSync(join(bag, 'data/record'), { recursive: true })),
    /none that Uncia made/,
  ],
  [
    'a record of a newer version',
    () => changed(inRecord('class.json', 'version 1', 'version 9')),
    /class\.json.*is not as it should be/,
  ],
  [
    'a line that is no JSON',
    () => changed(inRecord('events.ndjson', '{', '')),
    /events\.ndjson.*not JSON/,
  ],
  [
    'a step that names a page that is not there',
    () => changed(inRecord('steps.ndjson', /"page" : \d+/, '"page" : 9999')),
    /does not hold together/,
  ],
  [
    'a step that does not fit its page',
    () => changed(inRecord('steps.ndjson', /"from": \d+/, '"from": 99999')),
    /does not fit what is on it/,
  ],
  [
    'a snapshot that is not what its steps make',
    () => changed(inRecord('snapshots.ndjson', 'a rock awash', 'a wreck there')),
    /does not fit what is on it/,
  ],
  [
    'a page with something that a browser would run',
    () =>
      changed(
        inRecord(
          'snapshots.ndjson',
          '{"text": "Guarded words of the teacher.", "type": "text"}',
          '{"type": "text", "text": "x", "marks": [{"type": "link", "attrs": {"href": "javascript:alert(1)"}}]}',
        ),
      ),
    /does not fit what is on it/,
  ],
  [
    'another picture under the name',
    () =>
      changed((bag) =>
        writeFileSync(
          join(bag, 'data/record/files', full.picture),
          Buffer.concat([
            readFileSync(join(bag, 'data/record/files', full.picture)),
            Buffer.from('x'),
          ]),
        ),
      ),
    /another picture/,
  ],
  [
    'another picture as a stamp',
    () =>
      changed((bag) => {
        const threads = readFileSync(join(bag, 'data/record/threads.ndjson'), 'utf8');
        const [, hash = ''] = /"picture" : "([0-9a-f]{64})"/.exec(threads) ?? [];
        const path = join(bag, 'data/record/files', hash);
        writeFileSync(path, Buffer.concat([readFileSync(path), Buffer.from('x')]));
      }),
    /another picture/,
  ],
  [
    'a scoring of a student that is none',
    () => changed(inRecord('student-scorings.ndjson', '"criteria"', '"critters"')),
    /a scoring is none/,
  ],
  [
    'a student’s scoring of a copy that is not there',
    () => changed(inRecord('student-scorings.ndjson', /"by_page" : \d+/, '"by_page" : 9999')),
    /by a copy that is not there/,
  ],
];

describe('an archive that is brought and not whole', () => {
  it.each(BROKEN)('is refused with a sentence: %s', async (_what, make, says) => {
    const before = await things();
    const { fault, class_id, finished_at } = await bring(test.app, teacher, await make());
    expect(fault).toMatch(says);
    expect(fault).toMatch(/\.$/);
    expect([class_id, finished_at === null]).toEqual([null, false]);
    expect(await things()).toEqual(before);
    // What it was is told to whoever brought it, and its bytes are gone.
    const told = await test.app.db
      .selectFrom('message')
      .select('fact')
      .where('person_id', '=', teacher)
      .orderBy('at', 'desc')
      .executeTakeFirst();
    expect(told?.fact).toMatchObject({ kind: 'archive opened', fault });
    const pieces = await test.app.db
      .selectFrom('archive_piece')
      .innerJoin('archive', 'archive.id', 'archive_id')
      .select('n')
      .where('kind', '=', 'brought')
      .execute();
    expect(pieces).toEqual([]);
  });

  it('is opened though it was made before students scored, two marked apart, and stamps were archived', async () => {
    const older = await changed((bag) => {
      for (const file of ['scorings-apart.ndjson', 'student-scorings.ndjson'])
        rmSync(join(bag, 'data/record', file));
      inRecord('threads.ndjson', /"stamp" : (null|\{[^}]*\}),/g, '')(bag);
      inRecord(
        'pages.ndjson',
        /"markers" : \[.*?\], "readers" : \[.*?\], "withheld" : \[.*?\]/g,
        '"words": null',
      )(bag);
    });
    expect((await bring(test.app, teacher, older)).fault).toBeNull();
  });

  it('is opened once it is', async () => {
    expect((await bring(test.app, teacher, await changed(() => undefined))).fault).toBeNull();
  });
});
