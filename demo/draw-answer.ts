import type { Node } from 'prosemirror-model';
import type { Transform } from 'prosemirror-transform';
import { writePoints, type InkPoint } from '../src/lib/core/page/drawing';
import { schema } from '../src/lib/core/page/schema';
import type { DemoAnswer } from './answers';

type Drawn = Extract<DemoAnswer, { lines: unknown }>;

/** Between two corners a hand goes in small steps, trembling a little, and presses harder in the middle. */
function handOf(corners: readonly [number, number][], shift: number): InkPoint[] {
  const points: InkPoint[] = [];
  corners.forEach(([x, y], index) => {
    const [toX, toY] = corners[index + 1] ?? [x, y];
    const steps = Math.max(1, Math.round(Math.hypot(toX - x, toY - y) / 9));
    for (let step = 0; step < steps; step++) {
      const share = step / steps;
      const sway = 3 * Math.sin((points.length + shift) / 4);
      points.push({
        x: Math.round(x + (toX - x) * share + sway),
        y: Math.round(y + (toY - y) * share + sway + shift),
        pressure: 0.45 + 0.25 * Math.sin((Math.PI * (index + share)) / corners.length),
      });
    }
  });
  return points;
}

/** What somebody does on a drawing, one deed after the other. Who draws it sways in their own way. */
export function drawAnswer(
  transform: Transform,
  { node, pos }: { node: Node; pos: number },
  { part, lines, labels, pieces }: Drawn,
): (() => void)[] {
  const sways = transform.steps.length % 17;
  const end = () => pos + 1 + (transform.doc.nodeAt(pos)?.content.size ?? 0);
  const moves = node.children.flatMap((child, index) => {
    const spot = child.type.name === 'piece' ? pieces[String(child.attrs.id)] : undefined;
    return spot ? [() => transform.setNodeAttribute(pos + 1 + index, 'place', `@${spot}`)] : [];
  });
  const strokes = lines.map((corners, index) => () => {
    const points = writePoints(handOf(corners, sways));
    const id = `${part}-stroke-${index + 1}`;
    transform.insert(end(), schema.nodes.stroke.create({ id, points, width: 4, ink: 'blue' }));
  });
  const named = Object.entries(labels).map(([at, text], index) => () => {
    const id = `${part}-label-${index + 1}`;
    transform.insert(end(), schema.nodes.label.create({ id, at, text }));
  });
  return [...moves, ...strokes, ...named];
}
