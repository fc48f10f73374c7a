/** A place in the window, as shares of an element's width and height. */
function sharesOf(element: Element, at: { x: number; y: number }) {
  const { left, top, width, height } = element.getBoundingClientRect();
  const share = (length: number, size: number) =>
    Math.min(1, Math.max(0, length / Math.max(1, size)));
  return { x: share(at.x - left, width), y: share(at.y - top, height) };
}

/** Where in an element somebody clicked. */
export const pointIn = (element: Element, { clientX, clientY }: MouseEvent) =>
  sharesOf(element, { x: clientX, y: clientY });

/** The words that are selected within an element, and where they begin in it; null where none are. */
export function wordsIn(element: Element): { quote: string; x: number; y: number } | null {
  const selection = getSelection();
  const quote = selection?.toString().replace(/\s+/g, ' ').trim().slice(0, 300) ?? '';
  if (!selection || quote === '' || !element.contains(selection.anchorNode)) return null;
  const first = selection.getRangeAt(0).getClientRects()[0];
  return first ? { quote, ...sharesOf(element, { x: first.left, y: first.top }) } : null;
}
