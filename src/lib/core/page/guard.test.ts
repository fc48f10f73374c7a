import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { PLACES, questionPage } from '../../../../tests/support/school';
import { guardedTextKept } from './guard';
import { isAnswer, schema } from './schema';

const page = questionPage();
const kept = (change: (transform: Transform) => unknown) => {
  const transform = new Transform(page);
  change(transform);
  return guardedTextKept(page, transform.doc);
};
const optionAt = (doc: Node, id: string) => {
  let at = -1;
  doc.descendants((node, pos) => void (node.attrs.id === id && (at = pos)));
  return at;
};

describe('guarded text', () => {
  it('is kept by writing in answers', () => {
    expect(kept((t) => t.insert(PLACES.short, schema.text('sand')))).toBe(true);
    expect(kept((t) => t.insert(PLACES.number, schema.text('2.6')))).toBe(true);
    expect(
      kept((t) => t.insert(PLACES.writing, schema.text('words')).split(PLACES.writing + 2)),
    ).toBe(true);
    expect(kept((t) => t.setNodeAttribute(optionAt(page, 'choice-1'), 'chosen', true))).toBe(true);
  });

  it('is not kept by any other change', () => {
    expect(kept((t) => t.insert(PLACES.guarded, schema.text('x')))).toBe(false);
    expect(kept((t) => t.delete(PLACES.guarded, PLACES.guarded + 1))).toBe(false);
    expect(kept((t) => t.addMark(2, 6, schema.marks.strong.create()))).toBe(false);
    expect(kept((t) => t.setNodeAttribute(optionAt(page, 'number'), 'unit', 'km'))).toBe(false);
    expect(kept((t) => t.insert(optionAt(page, 'choice-0') + 1, schema.text('not ')))).toBe(false);
    expect(kept((t) => t.delete(0, page.content.size - 6))).toBe(false);
  });

  it('refuses an answer inside an answer', () => {
    const nested = schema.nodes.list_item.create(null, [
      schema.nodes.paragraph.create(),
      schema.nodes.answer_short.create({ id: 'made-up' }),
    ]);
    expect(
      kept((t) => t.insert(PLACES.writing - 1, schema.nodes.bullet_list.create(null, nested))),
    ).toBe(false);
  });

  /** The page's own text, gathered in another way than the guard compares. */
  const ownText = (doc: Node) => {
    const own: string[] = [];
    doc.descendants((node) => {
      if (isAnswer(node) && node.type.name !== 'answer_choice') return false;
      if (node.isText) own.push(`${node.text}${node.marks.map((mark) => mark.type.name)}`);
      return true;
    });
    return own.join('|');
  };

  it('agrees with the page’s own text, whatever range is replaced', () => {
    const place = fc.integer({ min: 0, max: page.content.size });
    fc.assert(
      fc.property(place, place, fc.string({ maxLength: 5 }), (a, b, text) => {
        const transform = new Transform(page);
        try {
          transform.replaceWith(Math.min(a, b), Math.max(a, b), text ? schema.text(text) : []);
          transform.doc.check();
        } catch {
          return;
        }
        if (guardedTextKept(page, transform.doc))
          expect(ownText(transform.doc)).toBe(ownText(page));
      }),
      { numRuns: 1500 },
    );
  });
});
