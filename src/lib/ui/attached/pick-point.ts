/** Where somebody pointed at, as shares of an element's width and height. */
export function pointIn(element: Element, { clientX, clientY }: MouseEvent) {
  const { left, top, width, height } = element.getBoundingClientRect();
  const share = (at: number, size: number) => Math.min(1, Math.max(0, at / Math.max(1, size)));
  return { x: share(clientX - left, width), y: share(clientY - top, height) };
}

/** The words that are selected within an element, and where they begin in it; null where none are. */
export function wordsIn(element: Element): { quote: string; x: number; y: number } | null {
  const selection = getSelection();
  const quote = selection?.toString().replace(/\s+/g, ' ').trim().slice(0, 300) ?? '';
  if (!selection || quote === '' || !element.contains(selection.anchorNode)) return null;
  const first = selection.getRangeAt(0).getClientRects()[0];
  if (!first) return null;
  const { left, top, width, height } = element.getBoundingClientRect();
  const share = (at: number, size: number) => Math.min(1, Math.max(0, at / Math.max(1, size)));
  return { quote, x: share(first.left - left, width), y: share(first.top - top, height) };
}
