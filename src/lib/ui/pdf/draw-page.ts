import { TextLayer, type PDFDocumentProxy } from 'pdfjs-dist';

interface Drawing {
  canvas: HTMLCanvasElement;
  /** Gets the words, unseen, to be selected; null where they are not. */
  words: HTMLElement | null;
  /** From 1. */
  number: number;
  /** In pixels of the view. */
  width: number;
  /** Told how high it is at that width, before it is drawn. */
  sized: (height: number) => void;
}

/** Draws a page of a PDF document. @returns what stops it */
export function drawPage(
  pdf: PDFDocumentProxy,
  { canvas, words, number, width, sized }: Drawing,
  failed: () => void,
): () => void {
  let isStopped = false;
  let cancel = (): void => {
    isStopped = true;
  };
  const draw = async () => {
    const page = await pdf.getPage(number);
    if (isStopped) return;
    const scale = width / page.getViewport({ scale: 1 }).width;
    const viewport = page.getViewport({ scale });
    sized(viewport.height);
    const sharp = Math.min(2, devicePixelRatio || 1);
    canvas.width = Math.floor(viewport.width * sharp);
    canvas.height = Math.floor(viewport.height * sharp);
    const transform = sharp === 1 ? undefined : [sharp, 0, 0, sharp, 0, 0];
    const task = page.render({ canvas, viewport, transform });
    cancel = () => {
      isStopped = true;
      task.cancel();
    };
    await task.promise;
    if (!words || isStopped) return;
    words.replaceChildren();
    words.style.setProperty('--total-scale-factor', String(scale));
    const textContentSource = page.streamTextContent();
    await new TextLayer({ textContentSource, container: words, viewport }).render();
  };
  draw().catch(() => {
    if (!isStopped) failed();
  });
  return () => cancel();
}
