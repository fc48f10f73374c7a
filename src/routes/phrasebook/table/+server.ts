import type { RequestEvent } from '@sveltejs/kit';
import { writeCsv } from '$server/import/tables';
import { allowPerson } from '$server/access/allow';
import { download } from '$server/http/download';
import { readPhrases } from '$server/phrasebook/phrases';

/** One's own phrases as a table. */
export const GET = allowPerson(
  'keep a phrasebook',
  async (_event: RequestEvent, { app, grant }) => {
    const own = (await readPhrases(app.db, grant)).filter((one) => one.own && !one.away);
    const rows = own.map(({ text, course, used }) => [text, course?.title ?? '', String(used)]);
    return download(
      'Phrasebook.csv',
      'text/csv; charset=utf-8',
      writeCsv([['phrase', 'course', 'used'], ...rows]),
    );
  },
);
