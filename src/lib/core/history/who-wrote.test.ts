import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { whoWrote } from './who-wrote';

const { nodes } = schema;
const page = (...texts: string[]) =>
  nodes.doc.create(
    null,
    texts.map((text) => nodes.paragraph.create(null, text ? schema.text(text) : null)),
  );
const sitting = (author: string, added: number, first = 1) => ({
  author,
  from: 0,
  to: 1,
  first,
  last: first,
  added,
  removed: 0,
  strokes: 0,
  pasted: [],
});

describe('who wrote what', () => {
  it('is shared among those whose words count; what the page began with is nobody’s', () => {
    // "The tide": the page's own. "turns": Ada. "🦀!": Finn; a crab is one character. "Good": the teacher.
    const doc = page('The tide turns', '🦀! Good');
    const authorship = [
      { from: 10, to: 15, author: 'ada', first: 1, last: 3 },
      { from: 17, to: 20, author: 'finn', first: 4, last: 4 },
      { from: 21, to: 25, author: 'teacher', first: 5, last: 5 },
    ];
    const line = [sitting('ada', 6), sitting('finn', 2), sitting('teacher', 4), sitting('ada', 9)];
    expect(whoWrote(doc, authorship, line, (author) => author !== 'teacher')).toEqual([
      { author: 'ada', written: 15, sittings: 2, stands: 5, strokes: 0, share: 5 / 7 },
      { author: 'teacher', written: 4, sittings: 1, stands: 4, strokes: 0, share: null },
      { author: 'finn', written: 2, sittings: 1, stands: 2, strokes: 0, share: 2 / 7 },
    ]);
  });

  it('knows who wrote and has nothing left, and a page on which nothing is written', () => {
    expect(whoWrote(page(''), [], [sitting('ada', 3)], () => true)).toEqual([
      { author: 'ada', written: 3, sittings: 1, stands: 0, strokes: 0, share: 0 },
    ]);
    expect(whoWrote(page('All given'), [], [], () => true)).toEqual([]);
  });

  it('counts strokes of a drawing, which have the share where no words stand', () => {
    const stroke = (id: string) => nodes.stroke.create({ id, points: '1,1,50 2,2,50' });
    const drawing = nodes.answer_drawing.create({ id: 'd' }, ['a', 'b', 'c'].map(stroke));
    const runs = [
      { from: 1, to: 3, author: 'ada', first: 1, last: 2 },
      { from: 3, to: 4, author: 'finn', first: 3, last: 3 },
    ];
    const drawn = whoWrote(nodes.doc.create(null, [drawing]), runs, [], () => true);
    expect(drawn.map(({ author, strokes, share }) => [author, strokes, share])).toEqual([
      ['ada', 2, 2 / 3],
      ['finn', 1, 1 / 3],
    ]);
  });

  it('counts each written character once, and its shares come to a whole', () => {
    const lengths = fc.array(fc.record({ size: fc.nat(6), author: fc.constantFrom('a', 'b', '') }));
    fc.assert(
      fc.property(lengths, (parts) => {
        let at = 1;
        const authorship = parts.flatMap(({ size, author }) => {
          const from = at;
          at += size;
          return author && size > 0 ? [{ from, to: at, author, first: 1, last: 1 }] : [];
        });
        const doc = page('x'.repeat(at - 1));
        const all = whoWrote(doc, authorship, [], () => true);
        const written = parts.reduce((sum, { size, author }) => sum + (author ? size : 0), 0);
        expect(all.reduce((sum, { stands }) => sum + stands, 0)).toBe(written);
        const shares = all.reduce((sum, { share }) => sum + (share ?? 0), 0);
        expect(shares).toBeCloseTo(written > 0 ? 1 : 0);
      }),
    );
  });
});
