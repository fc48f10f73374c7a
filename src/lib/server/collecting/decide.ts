import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import type { Move, Run } from './collecting-move';
import { refuseStrangers } from './refuse-strangers';
import { GONE, SETTLED, theirFiles } from './their-files';

/** Says whose a file is. @throws Refusal */
export const sayWhose = (app: Using<'db'>, grant: Run, { file, student }: Move<'say whose'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirFiles(grant, tx, [file]);
    if (!row) throw new Refusal(404, GONE);
    if (row.attachment_id !== null || row.apart !== null) throw new Refusal(409, SETTLED);
    if (student !== null) await refuseStrangers(tx, grant, [student]);
    await tx.updateTable('collected').set({ student_id: student }).where('id', '=', file).execute();
  });

/** Puts files aside that are nobody's, or brings them back. */
export const putAside = (app: Using<'db'>, grant: Run, { files, away }: Move<'put aside'>) =>
  inTransaction(app.db, async (tx) => {
    const rows = await theirFiles(grant, tx, files);
    const open = rows.filter(({ attachment_id }) => attachment_id === null);
    if (open.length === 0) throw new Refusal(404, GONE);
    await tx
      .updateTable('collected')
      .set({ away_at: away ? new Date() : null })
      .where(
        'id',
        'in',
        open.map(({ id }) => id),
      )
      .execute();
  });
