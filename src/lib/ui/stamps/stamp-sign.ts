import { DRAWN_STAMPS } from '$core/stamps/drawn-stamps';
import type { Stamp } from '$core/stamps/stamp';

const SVG = 'http://www.w3.org/2000/svg';

/** The picture of a stamp as an element; whoever shows it says what it means. */
export function stampSign(stamp: Stamp): Element {
  if (stamp.kind === 'own') {
    const image = document.createElement('img');
    image.src = `/stamps/${stamp.id}`;
    image.alt = '';
    image.draggable = false;
    return image;
  }
  const svg = document.createElementNS(SVG, 'svg');
  svg.setAttribute('viewBox', '0 0 32 32');
  svg.setAttribute('aria-hidden', 'true');
  const path = document.createElementNS(SVG, 'path');
  path.setAttribute('d', DRAWN_STAMPS[stamp.name].lines);
  svg.append(path);
  return svg;
}
