import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Node } from 'prosemirror-model';
import { guardedTextKept } from './guard';
import { MOST_INK, tooLarge } from './limits';
import { partsOf } from './parts';
import {
  placeAt,
  placedOn,
  readPlace,
  readPoints,
  touches,
  writePlace,
  writePoints,
} from './drawing';
import { fullHeight, pointOf, shapeOf, strokePath } from './drawing-svg';
import { schema } from './schema';

const { nodes } = schema;
const drawing = (...children: Node[]) => nodes.answer_drawing.create({ id: 'd' }, children);
const page = (one: Node) => nodes.doc.create(null, [nodes.paragraph.create(), one]);
const spot = (id: string, at: string) => nodes.spot.create({ id, at });
const piece = (id: string, place = '') => nodes.piece.create({ id, text: id, place });
const stroke = (points: string, more = {}) => nodes.stroke.create({ id: 's', points, ...more });
const label = (text: string, more = {}) =>
  nodes.label.create({ id: `label-${text.length}`, text, at: '1 2', ...more });

const point = fc.record({
  x: fc.integer({ min: -200, max: 1200 }),
  y: fc.integer({ min: -200, max: 3000 }),
  pressure: fc.integer({ min: 0, max: 100 }).map((hundredths) => hundredths / 100),
});

describe('the points of a stroke', () => {
  it('are read as they were written, but for those that nobody would see', () => {
    fc.assert(
      fc.property(fc.array(point, { minLength: 1, maxLength: 60 }), (points) => {
        const written = writePoints(points);
        stroke(written).check();
        const read = readPoints(written);
        expect(read[0]).toEqual(points[0]);
        expect(read.at(-1)).toEqual(points.at(-1));
        // Each point lies no farther than the least distance from one that was kept.
        for (const { x, y } of points) {
          const nearest = Math.min(...read.map((one) => Math.hypot(one.x - x, one.y - y)));
          expect(nearest).toBeLessThan(2);
        }
      }),
    );
  });

  it('make a path that can be drawn, of a dot too', () => {
    fc.assert(
      fc.property(fc.array(point, { minLength: 1, maxLength: 30 }), (points) => {
        expect(strokePath(points, 4)).toMatch(/^M[-\d. ]+Q[-\d. ]+Z$/);
      }),
    );
  });

  it('are touched by an eraser that is near their line, also between two of them', () => {
    const line = stroke('0,0,50 100,0,50');
    expect(touches(line, { x: 50, y: 10 }, 12)).toBe(true);
    expect(touches(line, { x: 50, y: 20 }, 12)).toBe(false);
    expect(touches(line, { x: 120, y: 0 }, 12)).toBe(false);
    expect(touches(stroke('5,5,50'), { x: 10, y: 5 }, 12)).toBe(true);
  });
});

describe('the pieces of a drawing', () => {
  const on = drawing(spot('one', '100 100'), spot('two', '300 100'), piece('mole'), piece('light'));

  it('fall onto the nearest spot, stay where they are let go, or go back beside it', () => {
    expect(placeAt(on, { x: 120, y: 110 })).toBe('@one');
    expect(placeAt(on, { x: 200, y: 300 })).toBe('200 300');
    expect(placeAt(on, { x: 200, y: 640 })).toBe('');
    expect(readPlace('@one')).toBeNull();
    expect(readPlace(writePlace({ x: 3.4, y: 5.6 }))).toEqual({ x: 3, y: 6 });
  });

  it('are done when each place has one, or each is placed, and say where', () => {
    const [part] = partsOf(page(on));
    expect(part).toMatchObject({ kind: 'drawing', done: false, detail: '0 of 2 places filled' });
    const placed = drawing(
      spot('one', '100 100'),
      spot('two', '300 100'),
      piece('mole', '@two'),
      piece('light', '5 5'),
    );
    expect(partsOf(page(placed))[0]).toMatchObject({
      done: false,
      answer: 'mole: 2; light',
      chosen: ['mole@two'],
      detail: '1 of 2 places filled',
    });
    // A piece that belongs nowhere may stay beside it.
    const one = drawing(spot('one', '1 1'), piece('mole', '@one'), piece('light'));
    expect(partsOf(page(one))[0]).toMatchObject({ done: true, detail: '1 of 1 places filled' });
    const free = drawing(piece('mole', '5 5'), piece('light'));
    expect(partsOf(page(free))[0]).toMatchObject({ done: false, detail: '1 of 2 pieces placed' });
    expect([...placedOn(placed)]).toEqual([['mole', 'two']]);
  });

  it('lie beside it in rows that do not overlap, and on their spots when they are placed', () => {
    const many = drawing(spot('one', '9 9'), ...Array.from('abcdefghijklmnop', (id) => piece(id)));
    const points = many.children.slice(1).map((one) => pointOf(many, one));
    expect(new Set(points.map(({ x, y }) => `${x} ${y}`)).size).toBe(16);
    for (const { y } of points) {
      expect(y).toBeGreaterThan(600);
      expect(y).toBeLessThan(fullHeight(many));
    }
    const placed = piece('z', '@one');
    expect(pointOf(drawing(spot('one', '9 9'), placed), placed)).toEqual({ x: 9, y: 9 });
    // On a spot that is gone it lies beside the drawing.
    const lost = piece('z', '@gone');
    expect(pointOf(drawing(lost), lost).y).toBeGreaterThan(600);
  });
});

describe('a drawing', () => {
  it('without pieces is done with the first stroke or label that is not given', () => {
    const given = { given: true };
    const part = (...children: Node[]) => partsOf(page(drawing(...children)))[0];
    expect(part(stroke('1,1,50', given), label('sea', given))).toMatchObject({ done: false });
    expect(part(stroke('1,1,50'))).toMatchObject({ done: true, answer: '', detail: '1 stroke' });
    expect(part(label('sea'))).toMatchObject({ done: true, answer: 'sea', detail: '1 label' });
  });

  it('draws its words as words, and what is written on it cannot be anything else', () => {
    const said = label('<script>');
    expect(shapeOf(drawing(said), said).inside).toBe('<script>');
  });

  it.each([
    ['a stroke without a place', () => stroke('')],
    ['points that are none', () => stroke('1,1,50 x')],
    ['an ink that is none', () => stroke('1,1,50', { ink: 'url(x)' })],
    ['a pen as wide as the page', () => stroke('1,1,50', { width: 1000 })],
    ['a place that is none', () => label('x', { at: 'here' })],
    ['a piece without an id', () => piece('')],
    ['a picture that is none', () => nodes.answer_drawing.create({ id: 'd', file: '../x' })],
    ['a height that is none', () => nodes.answer_drawing.create({ id: 'd', height: 0.5 })],
  ])('is refused with %s', (_, make) => {
    expect(() => make().check()).toThrow(RangeError);
  });

  it('takes a great deal of ink, and not without end', () => {
    const points = Array.from({ length: 5000 }, (_, n) => `${n % 1000},${n % 600},50`).join(' ');
    const much = (count: number) =>
      page(drawing(...Array.from({ length: count }, () => stroke(points))));
    const most = Math.floor(MOST_INK / points.length);
    expect(tooLarge(much(most))).toBeNull();
    expect(tooLarge(much(most + 1))).toBe('too much ink');
    expect(tooLarge(much(most + 1), much(most + 2))).toBeNull();
  });
});

describe('a guarded drawing', () => {
  const start = [spot('one', '1 1'), piece('mole'), label('North', { given: true })];
  const kept = (...after: Node[]) =>
    guardedTextKept(page(drawing(...start)), page(drawing(...after)));

  it('lets its student draw, write, and move the pieces', () => {
    expect(
      kept(
        spot('one', '1 1'),
        piece('mole', '@one'),
        label('North', { given: true }),
        label('sea'),
        stroke('1,1,50'),
      ),
    ).toBe(true);
  });

  it('keeps what it was handed out with', () => {
    const [, mole = piece('x'), north = piece('x')] = start;
    expect(kept(spot('one', '2 2'), mole, north)).toBe(false);
    expect(kept(spot('one', '1 1'), mole)).toBe(false);
    expect(kept(spot('one', '1 1'), nodes.piece.create({ id: 'mole', text: 'other' }), north)).toBe(
      false,
    );
    expect(kept(spot('one', '1 1'), mole, label('South', { given: true }))).toBe(false);
    expect(kept(spot('one', '1 1'), mole, piece('more'), north)).toBe(false);
    expect(kept(spot('one', '1 1'), mole, north, label('mine', { given: true }))).toBe(false);
  });
});
