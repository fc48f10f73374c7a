import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { grantByRole, grantInClass } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { beginArchive, readPieces, writeArchive } from '../../src/lib/server/archive/archives';
import {
  beginBringing,
  bringPiece,
  endBringing,
  openArchive,
} from '../../src/lib/server/archive/open-archive';
import { archiveClass } from '../../src/lib/server/closing/archive-class';
import { readZip } from '../../src/lib/server/file/zip';
import { inTransaction } from '../../src/lib/server/db/transaction';

/** A folder that is gone with the process of the test. */
function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'uncia-test-'));
  process.once('exit', () => rmSync(made, { recursive: true, force: true }));
  return made;
}

export const closeAs = async (app: App, lead: string, klass: string, until: string | null = null) =>
  archiveClass(app, await grantInClass(app.db, 'close the term', lead, klass), until);

/** Makes an archive as the job does. @returns the bytes of its zip archive */
export async function makeArchive(
  app: App,
  of: { class: string; student?: string; school: number; by: string },
): Promise<Buffer> {
  // The test is the job.
  const noJobs = { put: async () => undefined };
  const id = await inTransaction(app.db, (tx) =>
    beginArchive(noJobs, tx, { student: null, ...of }),
  );
  await writeArchive(app, id);
  return bytesOf(app, id);
}

async function bytesOf(app: App, archive: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of readPieces(app.db, archive)) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Brings an archive and opens it, as the job does. @returns what is kept of it */
export async function bring(app: App, teacher: string, zip: Buffer, name = 'archive.zip') {
  const grant = await grantByRole(app.db, 'manage courses', teacher);
  const archive = await beginBringing(app.db, grant, { name, size: zip.length });
  for (let n = 0; n * 1_000_000 < zip.length; n++)
    await bringPiece(app.db, grant, {
      archive,
      n,
      bytes: zip.subarray(n * 1_000_000, (n + 1) * 1_000_000),
    });
  await endBringing({ db: app.db, jobs: { put: async () => undefined } as never }, grant, archive);
  await openArchive(app, archive);
  return app.db
    .selectFrom('archive')
    .select(['id', 'class_id', 'fault', 'finished_at'])
    .where('id', '=', archive)
    .executeTakeFirstOrThrow();
}

/** An archive, unpacked: the path of its one folder. */
export async function unpack(zip: Buffer): Promise<string> {
  const into = folder();
  for (const [path, bytes] of await readZip(zip)) {
    mkdirSync(join(into, dirname(path)), { recursive: true });
    writeFileSync(join(into, path), bytes);
  }
  const [name = ''] = readdirSync(into);
  return join(into, name);
}

/** The files below a folder, by their paths. */
export function filesBelow(path: string): Map<string, Buffer> {
  const files = readdirSync(path, { recursive: true, withFileTypes: true }).filter((one) =>
    one.isFile(),
  );
  return new Map(
    files
      .map((one): [string, Buffer] => {
        const full = join(one.parentPath, one.name);
        return [full.slice(path.length + 1), readFileSync(full)];
      })
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
}
