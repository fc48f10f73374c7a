import fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { changedRanges } from './changed-ranges';

const page = (text: string) =>
  schema.node('doc', null, [schema.node('paragraph', null, text ? [schema.text(text)] : [])]);
const after = (change: Transform, counts: (index: number) => boolean = () => true) =>
  changedRanges(change.mapping.maps.map((map, index) => ({ map, counts: counts(index) })));
const words =
  ({ doc }: Transform) =>
  (from: number, to: number) =>
    doc.textBetween(from, to);

describe('where a page was changed', () => {
  it('is what was put in, moved along by what came after, and where something went', () => {
    const change = new Transform(page('The tide falls.'));
    change.insert(9, schema.text(' here')).insert(1, schema.text('Now: '));
    const text = words(change);
    expect(after(change).map(({ from, to }) => text(from, to))).toEqual(['Now: ', ' here']);
    const less = new Transform(page('The tide falls.')).delete(4, 9);
    expect(after(less)).toEqual([{ from: 4, to: 4 }]);
  });

  it('is one place where somebody types on, and none where what they typed is gone', () => {
    const change = new Transform(page(''));
    for (const [i, letter] of [...'tide'].entries()) change.insert(1 + i, schema.text(letter));
    expect(after(change)).toEqual([{ from: 1, to: 5 }]);
    change.delete(1, 5);
    expect(after(change)).toEqual([{ from: 1, to: 1 }]);
  });

  it('leaves out what does not count', () => {
    const change = new Transform(page('ab')).insert(2, schema.text('mine'));
    change.insert(1, schema.text('theirs '));
    expect(after(change, (index) => index === 1)).toEqual([{ from: 1, to: 8 }]);
  });

  it('holds every letter that was typed, in order, within the page, without overlap', () => {
    const steps = fc.array(fc.tuple(fc.nat(40), fc.nat(3), fc.boolean()), { maxLength: 20 });
    fc.assert(
      fc.property(steps, (all) => {
        const change = new Transform(page('abcdefghij'));
        for (const [at, length, adds] of all) {
          const size = change.doc.content.size - 2;
          const from = 1 + (at % (size + 1));
          if (adds) change.insert(from, schema.text('X'.repeat(length + 1)));
          else change.delete(from, Math.min(size + 1, from + length));
        }
        const ranges = after(change);
        const marked = ranges.map(({ from, to }) => change.doc.textBetween(from, to)).join('');
        const typed = [...change.doc.textContent].filter((letter) => letter === 'X').length;
        expect([...marked].filter((letter) => letter === 'X')).toHaveLength(typed);
        for (const [i, { from, to }] of ranges.entries()) {
          expect(from).toBeLessThanOrEqual(to);
          expect(from).toBeGreaterThan(ranges[i - 1]?.to ?? 0);
          expect(to).toBeLessThan(change.doc.content.size);
        }
      }),
    );
  });
});
