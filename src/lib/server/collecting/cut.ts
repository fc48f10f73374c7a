import { sql } from 'kysely';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import type { Move, Run } from './collecting-move';
import { refuseStrangers } from './refuse-strangers';
import { GONE, SETTLED, theirFiles } from './their-files';

/** A stack of sheets is cut: the job does it. @throws Refusal */
export const cut = (app: Using<'db' | 'jobs'>, grant: Run, { file, cuts }: Move<'cut'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirFiles(grant, tx, [file]);
    if (!row) throw new Refusal(404, GONE);
    if (row.type !== 'application/pdf') throw new Refusal(422, 'What is no PDF cannot be cut.');
    if (row.attachment_id !== null || row.away_at !== null || row.apart !== null)
      throw new Refusal(409, SETTLED);
    const pages = cuts.flatMap((one) => one.pages);
    if (new Set(pages).size < pages.length)
      throw new Refusal(422, 'A sheet was given to two students.');
    await refuseStrangers(
      tx,
      grant,
      cuts.flatMap(({ student }) => student ?? []),
    );
    await tx
      .updateTable('collected')
      .set({
        apart: 'begun',
        cuts: JSON.stringify(cuts),
        done: 0,
        total: cuts.length,
        left_out: '[]',
      })
      .where('id', '=', file)
      .execute();
    await app.jobs.put(tx, grant.thing.class.school_id, 'take apart', { file });
  });

/** What was taken apart is one file again, which can be cut in another way. @throws Refusal when a part of it was collected */
export const putTogether = (app: Using<'db'>, grant: Run, { file }: Move<'put together'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirFiles(grant, tx, [file]);
    if (row?.apart !== 'done') throw new Refusal(404, GONE);
    const parts = await tx
      .selectFrom('collected')
      .select(['id', 'upload_id', 'attachment_id'])
      .where('from_id', '=', file)
      .forUpdate()
      .execute();
    if (parts.some(({ attachment_id }) => attachment_id !== null))
      throw new Refusal(
        409,
        'Some of it is collected already. Undo that first, and put it together then.',
      );
    // What was on a copy once stays in that copy's past.
    await tx
      .updateTable('collected')
      .set({ from_id: null, away_at: new Date() })
      .where('from_id', '=', file)
      .where('upload_id', 'in', (eb) =>
        eb
          .selectFrom('attachment')
          .select(sql<string>`upload_id`.as('upload_id'))
          .where('upload_id', 'in', [...parts.map(({ upload_id }) => upload_id), row.upload_id]),
      )
      .execute();
    const gone = await tx
      .deleteFrom('collected')
      .where('from_id', '=', file)
      .returning('upload_id')
      .execute();
    for (const { upload_id } of gone)
      await tx.deleteFrom('upload').where('id', '=', upload_id).execute();
    await tx
      .updateTable('collected')
      .set({ apart: null, cuts: null, left_out: '[]', done: 0, total: 0 })
      .where('id', '=', file)
      .execute();
  });
