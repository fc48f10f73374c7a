import type { Node } from 'prosemirror-model';
import { mount, unmount } from 'svelte';
import Drawing from './Drawing.svelte';
import { DrawingShown, type Mode, type Place } from './drawing-shown.svelte';

/** Shows a drawing in an element of the page. */
export function showDrawing(
  element: HTMLElement,
  { node, mode, ...at }: { node: Node; mode: Mode } & Partial<Place>,
): DrawingShown {
  const { view, place } = at;
  const shown = new DrawingShown(node, mode, view && place ? { view, place } : null);
  const drawn = mount(Drawing, { target: element, props: { shown } });
  shown.close = () => void unmount(drawn);
  return shown;
}
