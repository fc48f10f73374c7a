import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { schema } from '../page/schema';
import { piecesOf, applyPiece } from './apply-piece';

const page = (...lines: string[]): Node =>
  schema.node(
    'doc',
    null,
    (lines.length > 0 ? lines : ['']).map((line) =>
      schema.node('paragraph', null, line ? [schema.text(line)] : []),
    ),
  );
const linesOf = (doc: Node) => doc.content.content.map((block) => block.textContent);
const applied = (doc: Node, piece: Parameters<typeof applyPiece>[0]) =>
  applyPiece(piece, doc).apply(doc).doc ?? doc;

/** Takes over every piece once, one after the other, looking again after each, as a person does. */
function all(was: Node, is: Node, adapted: Node): Node {
  let doc = adapted;
  for (let left = piecesOf(was, is, adapted).length; left > 0; left--) {
    const [piece] = piecesOf(was, is, doc);
    if (piece) doc = applied(doc, piece);
  }
  return doc;
}

describe('an adapted page', () => {
  it('takes over what changed in its original, and keeps what was adapted', () => {
    const was = page('Title', 'Read the chart.', 'Give four depths.', 'Say why.');
    const is = page('Title', 'Read the new chart.', 'Give four depths.', 'Say why.', 'Hand it in.');
    const mine = page('Title', 'Read the chart.', 'Give two depths.', 'Say why.');
    const pieces = piecesOf(was, is, mine);
    expect(pieces.map(({ untouched }) => untouched)).toEqual([true, true]);
    expect(linesOf(applied(mine, pieces[1] ?? fail()))).toEqual([
      ...['Title', 'Read the chart.', 'Give two depths.', 'Say why.', 'Hand it in.'],
    ]);
    expect(linesOf(all(was, is, mine))).toEqual([
      ...['Title', 'Read the new chart.', 'Give two depths.', 'Say why.', 'Hand it in.'],
    ]);
  });

  it('shows where both changed the same words, and takes over only when told', () => {
    const [piece] = piecesOf(
      page('Title', 'Give four depths.'),
      page('Title', 'Give five depths.'),
      page('Title', 'Give two depths.'),
    );
    expect(piece).toMatchObject({ untouched: false, from: 1, to: 2 });
    expect(piece?.mine.map((block) => block.textContent)).toEqual(['Give two depths.']);
    expect(piece?.is.map((block) => block.textContent)).toEqual(['Give five depths.']);
  });

  it('has nothing to take over twice', () => {
    const was = page('a', 'b', 'c');
    const is = page('a', 'c', 'd');
    const mine = all(was, is, was);
    expect(piecesOf(was, is, mine)).toEqual([]);
    expect(linesOf(mine)).toEqual(['a', 'c', 'd']);
  });

  it('has each paragraph as a piece of its own, whichever is taken over first', () => {
    const was = page('Title', 'Read the chart.', 'Give four depths.', 'Say why.');
    const is = page(
      'Title',
      'First of all:',
      'Read the new chart.',
      'Give five depths.',
      'Say how.',
    );
    const pieces = piecesOf(was, is, was);
    expect(
      pieces.map(({ was: [before], is: [now] }) => [
        before?.textContent ?? null,
        now?.textContent ?? null,
      ]),
    ).toEqual([
      [null, 'First of all:'],
      ['Read the chart.', 'Read the new chart.'],
      ['Give four depths.', 'Give five depths.'],
      ['Say why.', 'Say how.'],
    ]);
    for (const order of [
      [3, 1, 0, 2],
      [2, 0, 3, 1],
      [0, 1, 2, 3],
    ]) {
      let doc = was;
      for (const index of order) {
        const piece = piecesOf(was, is, doc).find(({ key }) => key === pieces[index]?.key);
        doc = applied(doc, piece ?? fail());
      }
      expect(linesOf(doc)).toEqual(linesOf(is));
      expect(piecesOf(was, is, doc)).toEqual([]);
    }
    // One taken over, and changed here since: the others stand where they belong.
    const mine = page('Title', 'Read the new chart.', 'Give two depths.', 'Say why.', 'Thank you.');
    expect(linesOf(all(was, is, mine))).toEqual([
      ...['Title', 'First of all:', 'Read the new chart.', 'Give five depths.', 'Say how.'],
      'Thank you.',
    ]);
  });

  it('is offered again what was taken over and taken back', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.stringMatching(/^[a-f]{2,4}$/), { minLength: 1, maxLength: 6 }),
        fc.uniqueArray(fc.stringMatching(/^[a-f]{2,4}$/), { minLength: 1, maxLength: 6 }),
        (was, is) => {
          const [before, now] = [page(...was), page(...is)];
          for (const piece of piecesOf(before, now, before)) {
            const keys = piecesOf(before, now, applied(before, piece)).map(({ key }) => key);
            expect(keys).not.toContain(piece.key);
          }
        },
      ),
      { numRuns: 500 },
    );
  });

  const lines = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 8 });
  it('that was left as it was becomes the original', () => {
    fc.assert(
      fc.property(lines, lines, (was, is) => {
        const before = page(...was);
        expect(linesOf(all(before, page(...is), before))).toEqual(is);
      }),
      { numRuns: 500 },
    );
  });

  it('stays a valid page, whatever was changed where', () => {
    fc.assert(
      fc.property(lines, lines, lines, (was, is, mine) => {
        const doc = all(page(...was), page(...is), page(...mine));
        doc.check();
      }),
      { numRuns: 500 },
    );
  });
});

function fail(): never {
  throw new Error('there is no such piece');
}
