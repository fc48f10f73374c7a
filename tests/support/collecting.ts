import type { App } from '../../src/lib/server/app';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import type { Grant } from '../../src/lib/server/access/grant';
import { beginUpload, takePiece } from '../../src/lib/server/attached/uploads';
import { readCollecting } from '../../src/lib/server/collecting/read-collecting';
import { collecting } from '../../src/lib/server/collecting/receive';

/** What a teacher collects for an assignment of a class, as a route would let them. */
export class Collecting {
  constructor(
    private readonly app: App,
    readonly grant: Grant<'run the assignment'>,
  ) {}

  static of = async (
    app: App,
    by: string,
    at: { assignment: string; class: string },
  ): Promise<Collecting> =>
    new Collecting(app, await grantOnAssignment(app.db, 'run the assignment', by, at));

  /** Sends a file. */
  async send(name: string, bytes: Buffer): Promise<void> {
    const to = collecting(this.app, this.grant);
    const { id } = await beginUpload(this.app, to, { name, size: bytes.length });
    for (let at = 0; at < bytes.length; at += 4_000_000)
      await takePiece(this.app, to, id, { at, bytes: bytes.subarray(at, at + 4_000_000) });
  }

  read = () => readCollecting(this.app, this.grant);
  files = async () => (await this.read()).files;
  /** The files by their names, with how they stand. */
  standing = async (): Promise<Record<string, string>> =>
    Object.fromEntries((await this.files()).map(({ path, standing }) => [path, standing]));
  idOf = async (path: string): Promise<string> =>
    (await this.files()).find((file) => file.path === path)?.id ?? '';
}
