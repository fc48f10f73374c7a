import { randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, open, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Node } from 'prosemirror-model';
import { finished } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { beginUpload, takePiece } from '../../src/lib/server/attached/uploads';
import { collect } from '../../src/lib/server/collecting/collect';
import { readCollecting } from '../../src/lib/server/collecting/read-collecting';
import { collecting } from '../../src/lib/server/collecting/receive';
import { assign, type TestSchool } from '../../tests/support/school';
import { figure } from './figure';

/** Of one file, in bytes: a photograph of a sheet, well compressed. */
const SIZE = 200_000;
const PIECE = 1_000_000;

/** A zip archive of a file for each of some students, on the disk. */
async function writeZip(path: string, names: readonly string[]) {
  const zip = new ZipFile();
  const into = createWriteStream(path);
  zip.outputStream.pipe(into);
  for (const name of names)
    zip.addBuffer(randomBytes(SIZE), `${name} sketch.jpg`, { compress: false });
  zip.end();
  await finished(into);
}

/** Sends an archive of files, has it taken apart and matched, and collects all of it. @returns milliseconds, and bytes of memory more than before */
async function collectSome(app: App, school: TestSchool, page: Node, count: number) {
  const { assignment } = await assign(app, school, { page, title: `Collect ${count}` });
  const at = { assignment, class: school.class };
  const grant = await grantOnAssignment(app.db, 'run the assignment', school.teacher, at);
  const { students } = await readCollecting(app, grant);
  const folder = await mkdtemp(join(tmpdir(), 'uncia-bench-'));
  const path = join(folder, 'files.zip');
  const some = students.slice(0, count);
  await writeZip(
    path,
    some.map(({ given, family }) => `${given} ${family}`),
  );
  global.gc?.();
  const before = process.memoryUsage.rss();
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage.rss())), 20);
  const began = performance.now();
  const to = collecting(app, grant);
  const { size } = await stat(path);
  const { id } = await beginUpload(app, to, { name: 'files.zip', size });
  const file = await open(path);
  for (let from = 0; from < size; from += PIECE) {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(PIECE), 0, PIECE, from);
    await takePiece(app, to, id, { at: from, bytes: buffer.subarray(0, bytesRead) });
  }
  await file.close();
  const sent = performance.now();
  for (;;) {
    const { apart } = await app.db
      .selectFrom('collected')
      .select('apart')
      .where('upload_id', '=', id)
      .executeTakeFirstOrThrow();
    if (apart === 'done') break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const apart = performance.now();
  const { files } = await readCollecting(app, grant);
  const { collected } = await collect(app, grant, {
    move: 'collect',
    files: files.map((one) => one.id),
    handIn: true,
  });
  const time = performance.now() - began;
  clearInterval(watch);
  await rm(folder, { recursive: true });
  if (collected !== count) throw new Error(`${collected} of ${count} were collected`);
  return { time, sent: sent - began, apart: apart - sent, memory: most - before };
}

/** Five hundred files, beside a hundred of them: of the larger archive no more is held at once. */
export async function collect500(app: App, school: TestSchool, page: Node): Promise<void> {
  const fewer = await collectSome(app, school, page, 100);
  const all = await collectSome(app, school, page, 500);
  figure('collect.500', all.time, 'ms');
  figure('collect.500.sent', all.sent, 'ms');
  figure('collect.500.apart', all.apart, 'ms');
  figure('collect.500.memory', all.memory / 1e6, 'MB', fewer.memory / 1e6);
}
