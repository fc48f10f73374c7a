import { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { MOST_BLOCKS, MOST_DEPTH, MOST_SIZE, tooLarge } from './limits';
import { schema } from './schema';

const paragraph = (text = '') =>
  schema.node('paragraph', null, text === '' ? [] : [schema.text(text)]);
const page = (count: number, text = '') =>
  schema.node(
    'doc',
    null,
    Array.from({ length: count }, () => paragraph(text)),
  );
const items = (count: number) =>
  schema.node('doc', null, [
    schema.node(
      'bullet_list',
      null,
      Array.from({ length: count }, () => schema.node('list_item', null, [paragraph('x')])),
    ),
  ]);
const nested = (levels: number): Node =>
  levels === 0
    ? paragraph()
    : schema.node('bullet_list', null, [
        schema.node('list_item', null, [paragraph(), ...(levels > 1 ? [nested(levels - 1)] : [])]),
      ]);

describe('a page', () => {
  it('has so many blocks, wherever they lie, and no more', () => {
    expect(tooLarge(page(MOST_BLOCKS))).toBeNull();
    expect(tooLarge(page(MOST_BLOCKS + 1))).toBe('too many blocks');
    // A list, and in it of each item the item and its paragraph.
    expect(tooLarge(items(MOST_BLOCKS / 2 - 1))).toBeNull();
    expect(tooLarge(items(MOST_BLOCKS / 2))).toBe('too many blocks');
  });

  it('is so long, and no longer', () => {
    expect(tooLarge(page(1, 'x'.repeat(MOST_SIZE - 4)))).toBeNull();
    expect(tooLarge(page(1, 'x'.repeat(MOST_SIZE - 3)))).toBe('too long');
  });

  it('holds so much inside each other', () => {
    const doc = (levels: number) => schema.node('doc', null, [nested(levels)]);
    // A list and its item, and in the last item its paragraph.
    expect(tooLarge(doc(MOST_DEPTH / 2 - 1))).toBeNull();
    expect(tooLarge(doc(MOST_DEPTH / 2))).toBe('too deep');
  });

  it('that is too large already may become smaller, and not larger', () => {
    const large = page(MOST_BLOCKS + 100);
    expect(tooLarge(page(MOST_BLOCKS + 99), large)).toBeNull();
    expect(tooLarge(large, large)).toBeNull();
    expect(tooLarge(page(MOST_BLOCKS + 101), large)).toBe('too many blocks');
  });
});
