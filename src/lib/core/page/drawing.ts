import type { Node } from 'prosemirror-model';

export interface Point {
  x: number;
  y: number;
}
/** A point of a stroke; `pressure` from 0 to 1. */
export interface InkPoint extends Point {
  pressure: number;
}

/** The points of a stroke, as its node writes them down. */
export const readPoints = (points: string): InkPoint[] =>
  points.split(' ').map((point) => {
    const [x = 0, y = 0, pressure = 50] = point.split(',').map(Number);
    return { x, y, pressure: pressure / 100 };
  });

/** Nearer than this to the last point, a point adds nothing that could be seen: in units. */
const LEAST_APART = 2;

/** Points as a stroke's node writes them down. Of a pen at rest one is kept; the last is always there. */
export function writePoints(points: readonly InkPoint[]): string {
  const kept: InkPoint[] = [];
  for (const [index, point] of points.entries()) {
    const last = kept.at(-1);
    const isLast = index === points.length - 1;
    if (!last || isLast || Math.hypot(point.x - last.x, point.y - last.y) >= LEAST_APART)
      kept.push(point);
  }
  return kept
    .map(({ x, y, pressure }) =>
      [x, y, Math.min(1, Math.max(0, pressure)) * 100].map((value) => Math.round(value)).join(','),
    )
    .join(' ');
}

/** Where something stands: "120 45"; null where it says no place. */
export function readPlace(place: string): Point | null {
  const [x, y] = place.split(' ').map(Number);
  return place !== '' && !place.startsWith('@') && x !== undefined && y !== undefined
    ? { x, y }
    : null;
}
export const writePlace = ({ x, y }: Point): string => `${Math.round(x)} ${Math.round(y)}`;

const childrenOf = (drawing: Node, type: string) =>
  drawing.children.filter((child) => child.type.name === type);
export const spotsOf = (drawing: Node): Node[] => childrenOf(drawing, 'spot');
export const piecesOf = (drawing: Node): Node[] => childrenOf(drawing, 'piece');

/** What was put on a drawing after it was handed out. */
const ownOf = (drawing: Node, type: string) =>
  childrenOf(drawing, type).filter(({ attrs }) => !attrs.given);

/** On which spot each piece stands, by their ids; a piece that stands on none is left out. */
export const placedOn = (drawing: Node): Map<string, string> =>
  new Map(
    piecesOf(drawing).flatMap(({ attrs: { id, place } }): [string, string][] =>
      place.startsWith('@') ? [[id, place.slice(1)]] : [],
    ),
  );

/** Nearer than this, a piece that is let go falls onto a spot: in units. */
const CATCH = 70;

/** What a piece's `place` becomes when it is let go at a point of a drawing: the nearest spot, that point, or beside it. */
export function placeAt(drawing: Node, point: Point): string {
  if (point.y > drawing.attrs.height) return '';
  let best: { id: string; far: number } | null = null;
  for (const { attrs } of spotsOf(drawing)) {
    const spot = readPlace(attrs.at);
    const far = spot ? Math.hypot(spot.x - point.x, spot.y - point.y) : Infinity;
    if (far <= CATCH && far < (best?.far ?? Infinity)) best = { id: attrs.id, far };
  }
  return best ? `@${best.id}` : writePlace(point);
}

/** How far a point lies from the stretch between two others. */
function distance(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length = dx * dx + dy * dy;
  const share = length === 0 ? 0 : ((p.x - a.x) * dx + (p.y - a.y) * dy) / length;
  const t = Math.min(1, Math.max(0, share));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

/** Whether an eraser of this radius touches a stroke. */
export function touches(stroke: Node, eraser: Point, radius: number): boolean {
  const points = readPoints(stroke.attrs.points);
  const reach = radius + stroke.attrs.width / 2;
  const [first] = points;
  if (!first) return false;
  if (points.length === 1) return Math.hypot(first.x - eraser.x, first.y - eraser.y) <= reach;
  return points.some((point, index) => {
    const next = points[index + 1];
    return next !== undefined && distance(eraser, point, next) <= reach;
  });
}

/** How a drawing is filled: what is written on it, whether there is enough, and that in words. */
export function readDrawing(drawing: Node): { done: boolean; answer: string; detail: string } {
  const pieces = piecesOf(drawing);
  const own = (type: string) => ownOf(drawing, type);
  const [strokes, labels] = [own('stroke').length, own('label')];
  const numbers = new Map(spotsOf(drawing).map(({ attrs }, index) => [attrs.id, index + 1]));
  const placed = pieces.filter(({ attrs }) => attrs.place !== '');
  // Where there are places, they are what is asked for: a piece may belong nowhere.
  const filled = new Set(placedOn(drawing).values()).size;
  const [have, asked, what] =
    numbers.size > 0
      ? [filled, Math.min(numbers.size, pieces.length), 'places filled']
      : [placed.length, pieces.length, 'pieces placed'];
  const sayPlaces = `${have} of ${asked} ${what}`;
  const said = [
    ...placed.map(({ attrs: { text, place } }) => {
      const spot = numbers.get(place.slice(1));
      return spot === undefined ? text : `${text}: ${spot}`;
    }),
    ...labels.map(({ attrs }) => attrs.text),
  ];
  const counts = [
    ...(pieces.length > 0 ? [sayPlaces] : []),
    ...(strokes > 0 ? [strokes === 1 ? '1 stroke' : `${strokes} strokes`] : []),
    ...(labels.length > 0 ? [labels.length === 1 ? '1 label' : `${labels.length} labels`] : []),
  ];
  const done = pieces.length > 0 ? have === asked : strokes + labels.length > 0;
  return { done, answer: said.join('; '), detail: counts.join(', ') };
}

/** How many strokes were drawn on a page, without what it was handed out with. */
export function strokesDrawn(page: Node): number {
  let strokes = 0;
  page.descendants((node) => {
    if (node.type.name !== 'answer_drawing') return !node.inlineContent;
    strokes += ownOf(node, 'stroke').length;
    return false;
  });
  return strokes;
}

/** How much ink is on a page: the characters of its strokes' points. */
export function inkOn(page: Node): number {
  let ink = 0;
  page.descendants((node) => {
    if (node.type.name === 'stroke') ink += String(node.attrs.points).length;
    return !node.inlineContent;
  });
  return ink;
}
