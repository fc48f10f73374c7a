import { EncryptedPDFError, PDFDocument } from 'pdf-lib';
import { Refusal } from '../page/refusal';

/**
 * Pages of a PDF document as documents of their own.
 * @param pieces numbers of pages, from 1, in the order in which they stand there
 * @throws Refusal when it cannot be read, or has no such page
 */
export async function cutPdf(
  bytes: Uint8Array,
  pieces: readonly (readonly number[])[],
): Promise<Uint8Array[]> {
  const { whole, count } = await read(bytes);
  if (pieces.flat().some((page) => page > count))
    throw new Refusal(422, `This stack has ${count} pages, and another was asked for.`);
  const cut: Uint8Array[] = [];
  for (const pages of pieces) {
    const piece = await PDFDocument.create();
    for (const page of await piece.copyPages(
      whole,
      pages.map((number) => number - 1),
    ))
      piece.addPage(page);
    cut.push(await piece.save());
  }
  return cut;
}

async function read(bytes: Uint8Array): Promise<{ whole: PDFDocument; count: number }> {
  try {
    const whole = await PDFDocument.load(bytes, { updateMetadata: false });
    // What was mended by guessing shows its faults when it is asked.
    return { whole, count: whole.getPageCount() };
  } catch (error) {
    throw new Refusal(
      422,
      error instanceof EncryptedPDFError
        ? 'This PDF is locked with a password, so it cannot be cut.'
        : 'This PDF is damaged, so it cannot be cut.',
    );
  }
}
