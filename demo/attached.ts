import type { App } from '../src/lib/server/app';
import { storeFile } from '../src/lib/server/attached/store-file';
import { inTransaction } from '../src/lib/server/db/transaction';
import { pdfOf } from './files';
import { DAY, MINUTE, type School } from './school';

/** Where the stand-in for documents is found. */
const DOCUMENTS = process.env.DOCUMENTS_URL ?? 'http://127.0.0.1:5187/';

/** What students of 8C attached to *Harbour sketch*, by their places, and left at that; minutes ago. */
const ATTACHED = [
  { student: 12, file: 'My sketch, the way in.pdf', ago: DAY },
  { student: 16, link: new URL('d/my-harbour', DOCUMENTS).href, ago: 2 * DAY },
] as const;

const WAY_IN = 'From the north: headland, end light, crane. Keep off the bar.';

/** Two made it elsewhere: one forgot to hand it in, the other let nobody open it. */
export async function attachWork(app: App, school: School): Promise<void> {
  const [klass] = school.classes;
  for (const one of ATTACHED) {
    const made_by = klass?.students[one.student];
    const copy = await app.db
      .selectFrom('page')
      .select('id')
      .where('student_id', '=', made_by ?? null)
      .where('title', '=', 'Harbour sketch')
      .where('kind', '=', 'copy')
      .executeTakeFirst();
    // In the first days of a term nothing is handed out yet.
    if (!copy || !made_by) continue;
    const at = new Date(school.now - one.ago - 7 * MINUTE);
    const whose = { school_id: school.id, page_id: copy.id };
    const file =
      'file' in one
        ? await inTransaction(app.db, async (tx) =>
            storeFile(tx, [await pdfOf([WAY_IN])], {
              ...whose,
              person_id: made_by,
              name: one.file,
            }),
          )
        : null;
    await app.db
      .insertInto('attachment')
      .values({
        ...whose,
        made_by,
        at,
        upload_id: file?.upload ?? null,
        url: 'link' in one ? one.link : null,
        found: 'link' in one ? 'cannot be opened' : 'fine',
      })
      .execute();
  }
}
