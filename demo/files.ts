import { PDFDocument, StandardFonts } from 'pdf-lib';

/** A PDF document with a line of words on each of its pages. */
export async function pdfOf(lines: readonly string[]): Promise<Buffer> {
  const made = await PDFDocument.create();
  const font = await made.embedFont(StandardFonts.Helvetica);
  for (const line of lines)
    made.addPage([595, 842]).drawText(line, { x: 60, y: 740, size: 16, font });
  return Buffer.from(await made.save());
}
