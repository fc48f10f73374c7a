import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { Refusal } from '../page/refusal';

/** Reads a PDF document as the view does that shows it. @returns how many pages it has @throws Refusal when it cannot be read */
export async function readPdf(bytes: Uint8Array): Promise<number> {
  const opening = getDocument({
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  });
  try {
    const pdf = await opening.promise;
    await pdf.getPage(1);
    return pdf.numPages;
  } catch {
    throw new Refusal(422, 'This PDF is damaged, or locked with a password.');
  } finally {
    await opening.destroy();
  }
}
