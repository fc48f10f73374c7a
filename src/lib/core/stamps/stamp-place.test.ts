import fc from 'fast-check';
import { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { stampPlace } from './stamp-place';

const page = Node.fromJSON(schema, {
  type: 'doc',
  content: [
    { type: 'paragraph', content: [{ type: 'text', text: 'The tide goes up.' }] },
    { type: 'answer_short', attrs: { id: 'short' } },
    { type: 'answer_drawing', attrs: { id: 'drawing' } },
    {
      type: 'answer_writing',
      attrs: { id: 'writing', aim: 0 },
      content: [{ type: 'paragraph' }],
    },
  ],
});
const on = (pos: number) => {
  const { from, to } = stampPlace(page, pos);
  return page.textBetween(from, to, ' ', '◻') || page.nodeAt(from)?.type.name;
};

describe('what a stamp is put on', () => {
  it('is the word where somebody points, at its beginning, in it and behind it', () => {
    expect([1, 2, 4, 5, 7, 9].map(on)).toEqual(['The', 'The', 'The', 'tide', 'tide', 'tide']);
    expect(on(17)).toBe('up.');
  });

  it('is all of an answer without words', () => {
    const drawing = 21;
    expect(page.nodeAt(drawing)?.type.name).toBe('answer_drawing');
    expect(stampPlace(page, drawing)).toEqual({
      from: drawing,
      to: drawing + (page.nodeAt(drawing)?.nodeSize ?? 0),
    });
    expect(on(20)).toBe('answer_short');
  });

  it('is never nothing, and never beyond the page', () => {
    fc.assert(
      fc.property(fc.integer({ min: -2, max: page.content.size + 2 }), (pos) => {
        const { from, to } = stampPlace(page, pos);
        expect(from).toBeLessThan(to);
        expect(from).toBeGreaterThanOrEqual(0);
        expect(to).toBeLessThanOrEqual(page.content.size);
      }),
    );
  });
});
