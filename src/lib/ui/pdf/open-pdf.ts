import type { PDFDocumentProxy } from 'pdfjs-dist';
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

/** Where the fonts, tables and decoders lie that some documents need. */
const DATA = `/_app/pdf-data`;

/**
 * Opens a PDF document, of which no more is fetched than is shown.
 * @throws Error with a sentence when it cannot be read
 */
export async function openPdf(url: string): Promise<PDFDocumentProxy> {
  const { getDocument, GlobalWorkerOptions } = await import('pdfjs-dist');
  GlobalWorkerOptions.workerSrc = worker;
  try {
    return await getDocument({
      url,
      cMapUrl: `${DATA}/cmaps/`,
      cMapPacked: true,
      standardFontDataUrl: `${DATA}/standard_fonts/`,
      wasmUrl: `${DATA}/wasm/`,
      iccUrl: `${DATA}/iccs/`,
      isEvalSupported: false,
      enableXfa: false,
      disableAutoFetch: true,
    }).promise;
  } catch (error) {
    const kind = error instanceof Error ? error.name : '';
    throw new Error(
      kind === 'PasswordException'
        ? 'This PDF is locked with a password, so it cannot be shown.'
        : kind === 'InvalidPDFException' || kind === 'FormatError'
          ? 'This PDF is damaged, so it cannot be shown.'
          : 'The server does not answer. Please try again.',
      { cause: error },
    );
  }
}
