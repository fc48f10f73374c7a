import fc from 'fast-check';
import { Step } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { authored, edits, historyOf, start } from '../../../../tests/support/random-history';
import { schema } from '../page/schema';
import { moveOn, type Authorship } from './authorship';
import { authorshipOf } from './carried';
import { withPassage } from './compare';

const { nodes } = schema;
const page = (...lines: string[]) =>
  nodes.doc.create(
    null,
    lines.map((line) => nodes.paragraph.create(null, schema.text(line))),
  );
const run = (from: number, to: number, author: string) => ({ from, to, author, first: 1, last: 1 });

describe('who wrote what of a page that was put together from two', () => {
  it('is who wrote it there, or then', () => {
    const then = page('One two three', 'Four five six');
    const now = page('One two three', 'Four and six');
    const back = withPassage(now, then, { from: 21, to: 25 });
    expect(back.child(1).textContent).toBe('Four five six');
    const authorship = authorshipOf(
      back,
      // "and", and the last word of the first line.
      { doc: now, authorship: [run(9, 14, 'ben'), run(21, 24, 'ben')] },
      { doc: then, authorship: [run(1, 4, 'cy'), run(16, 25, 'ada')] },
    );
    expect(authorship.map(({ author, from, to }) => [author, back.textBetween(from, to)])).toEqual([
      ['ben', 'three'],
      ['ada', 'five'],
    ]);
  });

  it('covers no place twice and names nobody who did not write, in random histories', () => {
    fc.assert(
      fc.property(edits, fc.nat(), fc.nat(), fc.nat(), (made, n, from, to) => {
        const { pages, steps } = historyOf(made);
        const version = n % pages.length;
        const now = pages.at(-1) ?? start;
        const then = pages[version] ?? start;
        const runs = (up: number): Authorship => moveOn([], authored(steps.slice(0, up)));
        const size = then.content.size;
        const passage = { from: from % size, to: (from % size) + 1 + (to % size) };
        const result = withPassage(now, then, passage);
        const found = authorshipOf(
          result,
          { doc: now, authorship: runs(steps.length) },
          { doc: then, authorship: runs(version) },
        );
        for (const [i, one] of found.entries()) {
          expect(one.from).toBeGreaterThanOrEqual(found[i - 1]?.to ?? 0);
          expect(one.to).toBeLessThanOrEqual(result.content.size);
        }
        // What was typed by nobody stays nobody's: letters of runs are letters that a step brought.
        const typed = steps.map(({ body }) => JSON.stringify(Step.fromJSON(schema, body).toJSON()));
        for (const { from: a, to: b } of found) {
          const words = result.textBetween(a, b, '', () => '');
          if (words) expect(typed.some((step) => step.includes(words.slice(0, 1)))).toBe(true);
        }
        // Nothing was put back: everything is as it is.
        if (result.eq(now)) expect(found).toEqual(runs(steps.length));
      }),
    );
  });
});
