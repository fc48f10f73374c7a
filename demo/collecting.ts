import type { App } from '../src/lib/server/app';
import { storeFile } from '../src/lib/server/attached/store-file';
import { inTransaction } from '../src/lib/server/db/transaction';
import { pdfOf } from './files';
import { MINUTE, type School } from './school';

/** What came out of a folder of 8C, for *Harbour sketch*. */
const NOTES = {
  'Harbour walk/Ekholm Viggo.md': '# My sketch\n\nIt is on the back of the chart, from the steps.',
  'Harbour walk/Jan Pellworm, sketch.md': '# Sketch\n\nThe crane hides the slip end.',
  'Harbour walk/strand.md': '# From the quay\n\nThree marks and the bar.',
  'Harbour walk/IMG_2041.md': 'No name on this one.',
};

/** Files that wait to be collected: a folder’s, and the paper of the front row, scanned in one go. */
export async function bringFiles(app: App, school: School): Promise<void> {
  const [klass] = school.classes;
  if (!klass) return;
  const handed = await app.db
    .selectFrom('assignment')
    .innerJoin('assignment_class', 'assignment_class.assignment_id', 'assignment.id')
    .select(['assignment.id', 'assignment.made_by'])
    .where('class_id', '=', klass.id)
    .where('title', '=', 'Harbour sketch')
    .executeTakeFirst();
  // In the first days of a term nothing is handed out yet.
  if (!handed) return;
  const at = new Date(school.now - 12 * MINUTE);
  const belongs = { school_id: school.id, assignment_id: handed.id, class_id: klass.id };
  const files = [
    ...Object.entries(NOTES).map(([path, text]) => ({ path, bytes: Buffer.from(text) })),
    {
      path: 'Scan, front row.pdf',
      bytes: await pdfOf(['Garrow', 'Garrow, second sheet', 'Hesper', 'Kestrel', 'Rask']),
    },
  ];
  await inTransaction(app.db, async (tx) => {
    for (const { path, bytes } of files) {
      const name = path.split('/').at(-1) ?? path;
      const file = { ...belongs, person_id: handed.made_by, name };
      const { upload, type } = await storeFile(tx, [bytes], file, at);
      await tx
        .insertInto('collected')
        .values({ ...belongs, made_by: handed.made_by, upload_id: upload, path, type, at })
        .execute();
    }
  });
}
