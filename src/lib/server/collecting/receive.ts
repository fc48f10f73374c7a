import type { Grant } from '../access/grant';
import { inTransaction, type Tx } from '../db/transaction';
import { publishToStaff } from '../live/listeners';
import { Refusal } from '../page/refusal';
import type { PutJob } from '../jobs/jobs';
import type { Using } from '../services';
import type { Receiver, WholeFile } from '../attached/uploads';

type Run = Grant<'run the assignment'>;

/** Files that wait in one assignment of a class to be decided about. */
const MOST_WAITING = 3000;

/** A file that holds files: those that documents are made of are none. */
const isZip = (type: string | null) => type === 'application/zip';

/** Files that a teacher collects for an assignment of a class: what is a zip archive is unpacked by a job. */
export const collecting = (app: Using<'db' | 'jobs' | 'news'>, grant: Run): Receiver => ({
  school: grant.thing.class.school_id,
  person: grant.person.id,
  into: { assignment_id: grant.thing.id, class_id: grant.thing.class.id },
  limit: 'collected',
  refuse: async () => {
    const { count } = await app.db
      .selectFrom('collected')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('assignment_id', '=', grant.thing.id)
      .where('class_id', '=', grant.thing.class.id)
      .where('attachment_id', 'is', null)
      .where('away_at', 'is', null)
      .executeTakeFirstOrThrow();
    if (Number(count) >= MOST_WAITING)
      throw new Refusal(
        422,
        `${MOST_WAITING} files wait here already. Please collect or put aside some of them first.`,
      );
  },
  take: async (finish) => {
    await inTransaction(app.db, async (tx) => {
      const file = await finish(tx);
      if (file) await receive(app.jobs, tx, grant, file);
    });
    publishToStaff(app, grant.thing.class.id);
  },
});

async function receive(jobs: PutJob, tx: Tx, { thing, person }: Run, file: WholeFile) {
  const { id } = await tx
    .insertInto('collected')
    .values({
      school_id: thing.class.school_id,
      assignment_id: thing.id,
      class_id: thing.class.id,
      upload_id: file.upload,
      path: file.name,
      type: file.type,
      made_by: person.id,
      ...(isZip(file.type) && { apart: 'begun' }),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (isZip(file.type)) await jobs.put(tx, thing.class.school_id, 'take apart', { file: id });
}
