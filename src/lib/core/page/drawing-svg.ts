import type { Node } from 'prosemirror-model';
import { getStroke } from 'perfect-freehand';
import { DRAWING_WIDTH, type Ink } from './drawing-nodes';
import { piecesOf, readPlace, readPoints, spotsOf, type InkPoint, type Point } from './drawing';

/** An element of SVG: its name, its attributes, and what is in it. */
export interface Shape {
  name: string;
  attrs: Record<string, string | number>;
  inside: readonly Shape[] | string;
}
const shape = (name: string, attrs: Shape['attrs'], inside: Shape['inside'] = []): Shape => ({
  name,
  attrs,
  inside,
});

/** Colours of ink on white paper: at least 4.5:1 (WCAG 2.2), in the dark as well, since a drawing's paper stays white. */
const COLOURS: Record<Ink, string> = {
  dark: '#20303c',
  blue: '#23568f',
  red: '#a3342a',
  green: '#2c6b34',
};
export const colourOf = (ink: string): string =>
  Object.entries(COLOURS).find(([name]) => name === ink)?.[1] ?? COLOURS.dark;

const INK = COLOURS.dark;
/** Around letters, so that they are read on any picture. */
const HALO = {
  'paint-order': 'stroke',
  stroke: '#fff',
  'stroke-width': 6,
  'stroke-linejoin': 'round',
};
const BOX = { fill: '#fffefb', stroke: INK, 'stroke-width': 2 };

/** In units. */
const FONT = 26;
const PIECE_HEIGHT = 48;
const GAP = 14;
const SPOT = 24;

/** About as wide as its letters are in the interface's font. */
const pieceWidth = (text: string) => Math.max(60, 28 + [...text].length * FONT * 0.55);

const halfway = (a: readonly number[], b: readonly number[] = a) =>
  [0, 1].map((i) => (((a[i] ?? 0) + (b[i] ?? 0)) / 2).toFixed(1)).join(' ');

/** The outline of a stroke as a path of SVG, wider where the pen was pressed. */
export function strokePath(points: readonly InkPoint[], width: number): string {
  const isEven = points.every(({ pressure }) => pressure === points[0]?.pressure);
  const outline = getStroke(
    points.map(({ x, y, pressure }) => [x, y, pressure]),
    {
      size: isEven ? width : width * 1.3,
      thinning: isEven ? 0 : 0.6,
      smoothing: 0.5,
      streamline: 0.3,
      simulatePressure: false,
      last: true,
    },
  );
  const [first] = outline;
  if (!first) return '';
  const curves = outline.map((point, index) => {
    const next = outline[(index + 1) % outline.length];
    const [x = 0, y = 0] = point;
    return `${x.toFixed(1)} ${y.toFixed(1)} ${halfway(point, next)}`;
  });
  return `M${halfway(outline.at(-1) ?? first, first)}Q${curves.join(' ')}Z`;
}

/** Where the pieces of a drawing lie beside it: in rows below. By their ids, with the middle of each. */
function besideOf(drawing: Node): { at: Map<string, Point>; height: number } {
  const at = new Map<string, Point>();
  let [x, row] = [GAP, 0];
  const pieces = piecesOf(drawing);
  for (const { attrs } of pieces) {
    const width = pieceWidth(attrs.text);
    if (x > GAP && x + width > DRAWING_WIDTH - GAP) [x, row] = [GAP, row + 1];
    const y = drawing.attrs.height + GAP + row * (PIECE_HEIGHT + GAP) + PIECE_HEIGHT / 2;
    at.set(attrs.id, { x: x + width / 2, y });
    x += width + GAP;
  }
  return { at, height: pieces.length > 0 ? (row + 1) * (PIECE_HEIGHT + GAP) + GAP : 0 };
}

/** How high a drawing is with its pieces beside it, in units. */
export const fullHeight = (drawing: Node): number =>
  drawing.attrs.height + besideOf(drawing).height;

/** Where a piece stands: on its spot, on its place, or beside the drawing. */
export function pointOf(drawing: Node, piece: Node): Point {
  const { id, place } = piece.attrs;
  const spot = spotsOf(drawing).find(({ attrs }) => `@${attrs.id}` === place);
  return readPlace(spot ? spot.attrs.at : place) ?? besideOf(drawing).at.get(id) ?? { x: 0, y: 0 };
}

const textShape = (text: string, at: Point, more: Shape['attrs'] = {}) =>
  shape(
    'text',
    { x: at.x, y: at.y, 'dominant-baseline': 'central', 'font-size': FONT, fill: INK, ...more },
    text,
  );

/** One thing on a drawing, as SVG. */
export function shapeOf(drawing: Node, child: Node): Shape {
  const { attrs } = child;
  switch (child.type.name) {
    case 'stroke':
      return shape('path', {
        d: strokePath(readPoints(attrs.points), attrs.width),
        fill: colourOf(attrs.ink),
      });
    case 'label': {
      const at = readPlace(attrs.at) ?? { x: 0, y: 0 };
      return textShape(attrs.text, at, HALO);
    }
    case 'piece': {
      const { x, y } = pointOf(drawing, child);
      const width = pieceWidth(attrs.text);
      const box = {
        x: x - width / 2,
        y: y - PIECE_HEIGHT / 2,
        width,
        height: PIECE_HEIGHT,
        rx: 10,
      };
      const name = textShape(attrs.text, { x, y }, { 'text-anchor': 'middle' });
      return shape('g', {}, [shape('rect', { ...box, ...BOX }), name]);
    }
    default: {
      const at = readPlace(attrs.at) ?? { x: 0, y: 0 };
      const number = String(spotsOf(drawing).findIndex((one) => one.attrs.id === attrs.id) + 1);
      return shape('g', {}, [
        shape('circle', { cx: at.x, cy: at.y, r: SPOT, ...BOX, 'stroke-dasharray': '6 5' }),
        textShape(number, at, { 'text-anchor': 'middle' }),
      ]);
    }
  }
}

/** The size of a drawing's SVG and what is behind all else. @param hrefOf where a picture lies, by its hash */
export function groundOf(drawing: Node, hrefOf: (file: string) => string) {
  const { file, height } = drawing.attrs;
  const size = { x: 0, y: 0, width: DRAWING_WIDTH, height };
  return {
    viewBox: `0 0 ${DRAWING_WIDTH} ${fullHeight(drawing)}`,
    ground: [
      shape('rect', { ...size, fill: '#fff' }),
      ...(file ? [shape('image', { ...size, href: hrefOf(file) })] : []),
    ],
  };
}
