import type { Node } from 'prosemirror-model';
import {
  placeAt,
  readPlace,
  spotsOf,
  touches,
  writePlace,
  writePoints,
  type InkPoint,
  type Point,
} from '$core/page/drawing';
import { DRAWING_WIDTH, PEN_WIDTHS } from '$core/page/drawing-nodes';
import { pointOf } from '$core/page/drawing-svg';
import type { DrawingShown } from './drawing-shown.svelte';

export type Tool = 'pen' | 'eraser' | 'label' | 'move' | 'spot';

/** In units of a drawing: how wide the eraser is, and how far an arrow key moves. */
const ERASER = 12;
const ARROW = 20;
const ARROWS: Record<string, Point> = {
  ArrowLeft: { x: -ARROW, y: 0 },
  ArrowRight: { x: ARROW, y: 0 },
  ArrowUp: { x: 0, y: -ARROW },
  ArrowDown: { x: 0, y: ARROW },
};
const ZOOMS = [1, 1.5, 2, 3];

type OnSvg = PointerEvent & { currentTarget: SVGSVGElement };

/** A label that is being written: at a place, or one that is there. */
interface Writing {
  at: Point;
  id: string | null;
  text: string;
}

/** What a hand does on a drawing, with pointer and keys. */
export class DrawingHand {
  private chosen: Tool | null = $state(null);
  ink = $state('dark');
  width: number = $state(PEN_WIDTHS[0]);
  zoom = $state(1);
  /** A finger draws only after the drawing was touched once, so that scrolling past it leaves no mark. */
  byFinger = $state(false);
  /** With a pen in hand, fingers scroll. */
  hasPen = $state(false);
  /** The stroke that is being drawn. */
  live: readonly InkPoint[] = $state.raw([]);
  /** What is being moved, and to where. */
  moving: { id: string; to: Point } | null = $state.raw(null);
  writing: Writing | null = $state(null);
  private erasing = false;

  constructor(private readonly shown: DrawingShown) {}

  private get node(): Node {
    return this.shown.node;
  }
  private get mayWork(): boolean {
    return this.shown.mode !== 'read';
  }

  /** Where there are pieces, they are what is asked for. */
  get tool(): Tool {
    const hasPieces = this.node.children.some(({ type }) => type.name === 'piece');
    return this.chosen ?? (hasPieces && this.shown.mode === 'answer' ? 'move' : 'pen');
  }

  /** @param byKeys a label or a place for a piece is put into the middle at once, to be moved from there */
  choose(tool: Tool, byKeys: boolean): void {
    this.chosen = tool;
    if (!byKeys) return;
    const middle = { x: DRAWING_WIDTH / 2, y: this.node.attrs.height / 2 };
    if (tool === 'label') this.writing = { at: middle, id: null, text: '' };
    if (tool === 'spot') this.shown.add('spot', { at: writePlace(middle) });
  }

  get mayShrink(): boolean {
    return this.zoom > 1;
  }
  get mayGrow(): boolean {
    return this.zoom < Math.max(...ZOOMS);
  }
  zoomBy(step: 1 | -1): void {
    this.zoom = ZOOMS[ZOOMS.indexOf(this.zoom) + step] ?? this.zoom;
  }

  /** Whether something on it can be moved by this hand now. */
  private mayMove(child: Node | undefined): child is Node {
    if (!child) return false;
    const { name } = child.type;
    if (name === 'piece') return true;
    if (name === 'spot') return this.shown.mode === 'author' && this.tool === 'move';
    return name === 'label' && this.tool === 'move' && this.shown.mayRemove(child);
  }

  down(event: OnSvg): void {
    if (!this.mayWork || event.button !== 0) return;
    if (event.pointerType === 'pen') this.hasPen = true;
    if (event.pointerType === 'touch' && (!this.byFinger || this.hasPen)) return;
    const child = this.childAt(event.target);
    const point = inkPoint(event.currentTarget, event);
    if (this.mayMove(child)) this.moving = { id: child.attrs.id, to: point };
    else if (this.tool === 'pen') this.live = [point];
    else if (this.tool === 'eraser') {
      this.erasing = true;
      this.erase(point);
    } else return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
  }

  move(event: OnSvg): void {
    const { currentTarget } = event;
    if (this.moving) this.moving = { ...this.moving, to: inUnits(currentTarget, event) };
    else if (this.erasing) this.erase(inUnits(currentTarget, event));
    else if (this.live.length > 0) {
      // Between two pictures of the screen a pen has been at several places.
      const between = event.getCoalescedEvents?.() ?? [];
      const events = between.length > 0 ? between : [event];
      this.live = [...this.live, ...events.map((one) => inkPoint(currentTarget, one))];
    }
  }

  up(event: OnSvg): void {
    const { moving, live, ink, width, node, shown } = this;
    if (moving) {
      const to = inUnits(event.currentTarget, event);
      const child = node.children.find(({ attrs }) => attrs.id === moving.id);
      if (child?.type.name === 'piece') shown.set(moving.id, 'place', placeAt(node, to));
      else shown.set(moving.id, 'at', writePlace(this.within(to)));
    } else if (live.length > 0) shown.add('stroke', { ink, width, points: writePoints(live) });
    this.cancel();
  }

  cancel(): void {
    this.live = [];
    this.moving = null;
    this.erasing = false;
  }

  /** Somebody pressed on it without drawing. */
  press(event: MouseEvent & { currentTarget: SVGSVGElement }): void {
    if (!this.mayWork || !(event instanceof PointerEvent)) return;
    if (event.pointerType === 'touch' && !this.byFinger && !this.hasPen) {
      this.byFinger = true;
      return;
    }
    const at = this.within(inUnits(event.currentTarget, event));
    if (this.tool === 'spot') this.shown.add('spot', { at: writePlace(at) });
    if (this.tool !== 'label') return;
    const child = this.childAt(event.target);
    if (child?.type.name === 'label' && this.shown.mayRemove(child)) this.edit(child);
    else this.writing = { at, id: null, text: '' };
  }

  private edit({ attrs: { at, id, text } }: Node) {
    this.writing = { at: readPlace(at) ?? { x: 0, y: 0 }, id, text };
  }

  endWriting(): void {
    if (!this.writing) return;
    const { at, id, text } = this.writing;
    this.writing = null;
    const says = text.trim();
    if (id === null) {
      if (says) this.shown.add('label', { at: writePlace(at), text: says });
    } else if (says) this.shown.write(id, says);
    else this.shown.remove(id);
  }

  private erase(point: Point) {
    for (const child of this.node.children) {
      const at = child.type.name === 'label' ? readPlace(child.attrs.at) : null;
      const isHit =
        child.type.name === 'stroke'
          ? touches(child, point, ERASER)
          : at !== null && Math.hypot(at.x - point.x, at.y - point.y) < 3 * ERASER;
      if (isHit && this.shown.mayRemove(child)) this.shown.remove(child.attrs.id);
    }
  }

  private childAt(target: EventTarget | null): Node | undefined {
    const element = target instanceof Element ? target.closest('[data-id]') : null;
    const id = element?.getAttribute('data-id');
    return this.node.children.find(({ attrs }) => attrs.id === id);
  }

  private within = ({ x, y }: Point): Point => ({
    x: Math.min(DRAWING_WIDTH, Math.max(0, x)),
    y: Math.min(this.node.attrs.height, Math.max(0, y)),
  });

  /** Whether something on it is handled by itself, by keys too. */
  handles = (child: Node): boolean => {
    if (!this.mayWork) return false;
    const { name } = child.type;
    if (name === 'label') return this.shown.mayRemove(child);
    return name === 'piece' || (name === 'spot' && this.shown.mode === 'author');
  };

  /** A key on something. @returns whether it means something there */
  key(key: string, child: Node): boolean {
    const { node, shown } = this;
    const { id } = child.attrs;
    const arrow = ARROWS[key];
    const isPiece = child.type.name === 'piece';
    const isRemoval = key === 'Delete' || key === 'Backspace';
    const onto = (index: number) => {
      const spot = spotsOf(node)[index]?.attrs.id;
      shown.set(id, 'place', spot ? `@${spot}` : '');
    };
    if (arrow) {
      const from = isPiece ? pointOf(node, child) : readPlace(child.attrs.at);
      const to = { x: (from?.x ?? 0) + arrow.x, y: (from?.y ?? 0) + arrow.y };
      shown.set(id, isPiece ? 'place' : 'at', writePlace(this.within(to)));
    } else if (isPiece && /^[1-9]$/.test(key)) onto(Number(key) - 1);
    // From place to place; behind the last one it is beside the drawing again.
    else if (isPiece && key === 'Enter')
      onto(spotsOf(node).findIndex(({ attrs }) => `@${attrs.id}` === child.attrs.place) + 1);
    else if (isPiece && isRemoval) shown.set(id, 'place', '');
    else if (isRemoval) shown.remove(id);
    else if (child.type.name === 'label' && key === 'Enter') this.edit(child);
    else return false;
    return true;
  }
}

/** A point of a drawing on the screen, in its units. */
function inUnits(svg: SVGSVGElement, { clientX, clientY }: MouseEvent): Point {
  const { left, top, width } = svg.getBoundingClientRect();
  const scale = DRAWING_WIDTH / width;
  return { x: Math.round((clientX - left) * scale), y: Math.round((clientY - top) * scale) };
}

/** Only a pen knows how hard it is pressed. */
const inkPoint = (svg: SVGSVGElement, event: PointerEvent): InkPoint => ({
  ...inUnits(svg, event),
  pressure: event.pointerType === 'pen' ? event.pressure : 0.5,
});
