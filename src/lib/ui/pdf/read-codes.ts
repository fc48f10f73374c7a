import type { PDFDocumentProxy } from 'pdfjs-dist';
import type { CodeAnswer, CodeQuestion } from './codes.worker';

/** A page is drawn so wide to be looked at for a code, in pixels: a cover sheet's has some 20 of them for each of its dots. */
const WIDTH = 900;

/**
 * Looks at the pages of a PDF document for codes, one after the other, beside the view.
 * @param found told of each page, from 1, what its code says, or null
 * @param stop ends it
 */
export async function readCodes(
  pdf: PDFDocumentProxy,
  found: (page: number, code: string | null) => void,
  stop: AbortSignal,
): Promise<void> {
  const worker = new Worker(new URL('./codes.worker.ts', import.meta.url), { type: 'module' });
  try {
    for (let number = 1; number <= pdf.numPages && !stop.aborted; number++) {
      const page = await pdf.getPage(number);
      const whole = page.getViewport({ scale: 1 });
      const viewport = page.getViewport({ scale: WIDTH / whole.width });
      const canvas = document.createElement('canvas');
      canvas.width = Math.floor(viewport.width);
      canvas.height = Math.floor(viewport.height);
      await page.render({ canvas, viewport }).promise;
      const { data, width, height } = canvas
        .getContext('2d')
        ?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: null, width: 0, height: 0 };
      page.cleanup();
      const code = data && (await ask(worker, { no: number, pixels: data, width, height }));
      if (!stop.aborted) found(number, code);
    }
  } finally {
    worker.terminate();
  }
}

const ask = (worker: Worker, question: CodeQuestion): Promise<string | null> =>
  new Promise((resolve) => {
    worker.addEventListener('message', ({ data }: MessageEvent<CodeAnswer>) => resolve(data.code), {
      once: true,
    });
    worker.addEventListener('error', () => resolve(null), { once: true });
    worker.postMessage(question, [question.pixels.buffer]);
  });
