import fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { moveAnchor } from './anchor';
import { moveOn, type AuthoredStep } from './authorship';

const { nodes } = schema;
const start = nodes.doc.create(null, nodes.paragraph.create(null, schema.text('original')));

/** Applies single changes by authors in turn. */
function write(changes: { author: string; change: (t: Transform) => unknown }[]) {
  const steps: AuthoredStep[] = [];
  let doc = start;
  for (const { author, change } of changes) {
    const transform = new Transform(doc);
    change(transform);
    for (const step of transform.steps) steps.push({ step, author, version: steps.length + 1 });
    doc = transform.doc;
  }
  const runs = moveOn([], steps);
  return {
    doc,
    runs,
    said: runs.map((run) => `${run.author}: ${doc.textBetween(run.from, run.to)}`),
  };
}

describe('authorship', () => {
  it('belongs to who wrote it, is cut by who writes into it, and goes with what is deleted', () => {
    const { said } = write([
      { author: 'ada', change: (t) => t.insert(9, schema.text(' and mine')) },
      { author: 'ben', change: (t) => t.insert(13, schema.text(' not')) },
      { author: 'ada', change: (t) => t.delete(20, 22) },
    ]);
    expect(said).toEqual(['ada:  and', 'ben:  not', 'ada:  mi']);
  });

  it('has no run for what the original brought along', () => {
    expect(write([{ author: 'ada', change: (t) => t.delete(1, 3) }]).runs).toEqual([]);
  });

  it('agrees with a letter-by-letter record after any edits', () => {
    const edit = fc.record({
      author: fc.constantFrom('a', 'b', 'c'),
      at: fc.nat(60),
      gone: fc.nat(4),
      text: fc.stringMatching(/^[a-z]{0,4}$/),
    });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), (edits) => {
        type Letter = { author: string; version: number } | null;
        let letters: Letter[] = Array.from('original', () => null);
        let version = 0;
        const changes = edits.map(({ author, at, gone, text }) => ({
          author,
          change: (t: Transform) => {
            const from = Math.min(at, letters.length);
            const to = Math.min(from + gone, letters.length);
            if (to > from) t.delete(1 + from, 1 + to);
            if (text) t.insert(1 + from, schema.text(text));
            version += t.steps.length;
            const written = Array.from(text, () => ({ author, version }));
            letters = [...letters.slice(0, from), ...written, ...letters.slice(to)];
          },
        }));
        const { runs } = write(changes);
        const expected: Letter[] = letters.map(() => null);
        for (const { from, to, author, first, last } of runs)
          for (let i = from - 1; i < to - 1; i++) {
            const wrote = letters[i]?.version ?? -1;
            // A run tells bounds; within them the letter's own version is the right one.
            expected[i] = { author, version: first <= wrote && wrote <= last ? wrote : NaN };
          }
        expect(expected).toEqual(letters);
        for (const [i, run] of runs.entries()) {
          expect(run.last - run.first).toBeLessThan(50);
          expect(run.from).toBeGreaterThanOrEqual(runs[i - 1]?.to ?? 0);
        }
      }),
    );
  });

  it('says the same step by step as at once', () => {
    const t = new Transform(start).insert(3, schema.text('one')).delete(2, 5);
    const around = t.insert(1, schema.text('two')).doc.resolve(1).blockRange();
    if (!around || !nodes.quote) throw new Error('nothing to wrap');
    t.wrap(around, [{ type: nodes.quote }]);
    const steps = t.steps.map((step, i) => ({ step, author: 'ada', version: i + 1 }));
    expect(steps.reduce((runs, step) => moveOn(runs, [step]), moveOn([], []))).toEqual(
      moveOn([], steps),
    );
  });

  it('keeps what one person types in one go in few runs', () => {
    const t = new Transform(start);
    for (let i = 0; i < 400; i++) t.insert(1 + i, schema.text('a'));
    const steps = t.steps.map((step, i) => ({ step, author: 'ada', version: i + 1 }));
    expect(moveOn([], steps)).toHaveLength(400 / 50);
  });
});

describe('an anchor', () => {
  const moved = (change: (t: Transform) => Transform) =>
    moveAnchor({ from: 3, to: 6 }, change(new Transform(start)).mapping);

  it('stays on its words while the text moves', () => {
    expect(moved((t) => t.insert(1, schema.text('xx')))).toEqual({ from: 5, to: 8 });
    expect(moved((t) => t.insert(8, schema.text('xx')))).toEqual({ from: 3, to: 6 });
    expect(moved((t) => t.insert(4, schema.text('x')))).toEqual({ from: 3, to: 7 });
  });
  it('does not grow at its edges, and closes when its words are gone', () => {
    expect(moved((t) => t.insert(3, schema.text('x')).insert(7, schema.text('y')))).toEqual({
      from: 4,
      to: 7,
    });
    expect(moved((t) => t.delete(2, 7))).toEqual({ from: 2, to: 2 });
  });
});
