import { sql } from 'kysely';
import { documentKind, shownAs } from '$core/attached/shown-as';
import type { Grant } from '../access/grant';
import type { Tx } from '../db/transaction';
import type { PutJob } from '../jobs/jobs';
import type { Using } from '../services';
import { changeAttached, refuseTooMany } from './change-attached';
import { askToLook } from './look-at';
import type { Receiver, WholeFile } from './uploads';

/** Files that a student sends to a copy: each is attached when it is whole. */
export const onCopy = (
  app: Using<'db' | 'news' | 'jobs'>,
  grant: Grant<'do own work'>,
): Receiver => ({
  school: grant.thing.school_id,
  person: grant.person.id,
  into: { page_id: grant.thing.id },
  limit: 'attached',
  refuse: async () => {
    const { count } = await app.db
      .selectFrom('attachment')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('page_id', '=', grant.thing.id)
      .where('away_at', 'is', null)
      .executeTakeFirstOrThrow();
    refuseTooMany(Number(count));
  },
  take: (finish) =>
    changeAttached(app, grant, async (tx, { school }) => {
      const file = await finish(tx);
      if (file)
        await attachFile(app.jobs, tx, { school, page: grant.thing.id, by: grant.person.id }, file);
    }),
});

/**
 * Attaches a whole file to a copy that is locked.
 * @param after how many more are attached after it in this transaction: each keeps its place, and none comes after its hand-in
 * @returns what is attached then
 */
export async function attachFile(
  jobs: PutJob,
  tx: Tx,
  { school, page, by }: { school: number; page: string; by: string },
  { upload, name, type }: WholeFile,
  after = 0,
): Promise<string> {
  const isDocument = documentKind(type, name) !== null || shownAs(type) === 'pdf';
  const { id: attachment } = await tx
    .insertInto('attachment')
    .values({
      school_id: school,
      page_id: page,
      upload_id: upload,
      made_by: by,
      at: sql<Date>`now() - ${after} * interval '1 microsecond'`,
      found: isDocument ? 'not looked at yet' : type === null ? 'cannot be read' : 'fine',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (isDocument) await askToLook(jobs, tx, school, { attachment, keep: false });
  return attachment;
}
