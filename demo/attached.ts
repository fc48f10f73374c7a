import type { App } from '../src/lib/server/app';
import { DAY, MINUTE, type School } from './school';

/** A page of one line, as PDF 1.4 (ISO 32000-1, clause 7.5) has it. */
function pdfOf(line: string): Buffer {
  const words = `BT /F1 18 Tf 72 720 Td (${line.replace(/[\\()]/g, '\\$&')}) Tj ET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${words.length} >>\nstream\n${words}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let text = '%PDF-1.4\n';
  const places: number[] = [];
  for (const [index, object] of objects.entries()) {
    places.push(text.length);
    text += `${index + 1} 0 obj\n${object}\nendobj\n`;
  }
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  const count = objects.length + 1;
  return Buffer.from(
    `${text}xref\n0 ${count}\n0000000000 65535 f \n${table}trailer\n<< /Size ${count} /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`,
    'latin1',
  );
}

/** Where the stand-in for documents is found. */
const DOCUMENTS = process.env.DOCUMENTS_URL ?? 'http://127.0.0.1:5187/';

/** What students of 8C attached to *Harbour sketch*, by their places, and left at that; minutes ago. */
const ATTACHED = [
  { student: 12, file: 'My sketch, the way in.pdf', ago: DAY },
  { student: 16, link: new URL('d/my-harbour', DOCUMENTS).href, ago: 2 * DAY },
] as const;

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
      'file' in one ? await putFile(app, { ...whose, person_id: made_by }, one.file) : null;
    await app.db
      .insertInto('attachment')
      .values({
        ...whose,
        made_by,
        at,
        upload_id: file,
        url: 'link' in one ? one.link : null,
        found: 'link' in one ? 'cannot be opened' : 'fine',
      })
      .execute();
  }
}

async function putFile(
  app: App,
  whose: { school_id: number; page_id: string; person_id: string },
  name: string,
): Promise<string> {
  const bytes = pdfOf('From the north: headland, end light, crane. Keep off the bar.');
  const { id } = await app.db
    .insertInto('upload')
    .values({
      ...whose,
      name,
      size: bytes.length,
      received: bytes.length,
      finished_at: new Date(),
      type: 'application/pdf',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await app.db.insertInto('upload_piece').values({ upload_id: id, starts: 0, bytes }).execute();
  return id;
}
