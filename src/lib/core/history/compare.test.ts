import fc from 'fast-check';
import { ChangeSet } from 'prosemirror-changeset';
import type { Node } from 'prosemirror-model';
import { StepMap, Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { edits, historyOf, start } from '../../../../tests/support/random-history';
import { schema } from '../page/schema';
import { compare, merged, withPassage, type Range } from './compare';

const { nodes } = schema;
const text = (words: string, bold = false) =>
  schema.text(words, bold ? [schema.mark('strong')] : []);
const p = (...words: (string | Node)[]) =>
  nodes.paragraph.create(
    null,
    words.map((one) => (typeof one === 'string' ? text(one) : one)),
  );
const page = (...blocks: Node[]) => nodes.doc.create(null, blocks);
const row = (...cells: string[]) =>
  nodes.table_row.create(
    null,
    cells.map((cell) => nodes.table_cell.create(null, cell ? p(cell) : p())),
  );

/** What a comparison says, in words. */
const said = (a: Node, b: Node) =>
  compare(a, b).map(({ kind, was, is, moved }) => {
    const [gone, came] = [a.textBetween(was.from, was.to, '|'), b.textBetween(is.from, is.to, '|')];
    return `${kind} ${gone?.trim()} → ${came?.trim()}${moved === null ? '' : ` (${moved})`}`;
  });

describe('a comparison', () => {
  it('goes word by word in a changed line, and takes neighbours as one', () => {
    const a = page(p('The tide turns at six, and we wait.'), p('Nothing else.'));
    const b = page(p('The tide turned at seven, and all of us wait.'), p('Nothing else.'));
    expect(said(a, b)).toEqual([
      'replaced turns → turned',
      'replaced six → seven',
      'replaced we → all of us',
    ]);
    const c = page(p('A boat comes.'));
    expect(said(page(p('The ship goes.')), c)).toEqual(['replaced The ship goes → A boat comes']);
  });

  it('divides words also where no spaces are', () => {
    expect(said(page(p('潮が満ちる。')), page(p('潮が引く。')))).toHaveLength(1);
  });

  it('says what has other marks, or is another kind of block, and keeps its words', () => {
    expect(said(page(p('A high tide')), page(p('A ', text('high', true), ' tide')))).toEqual([
      'formatted high → high',
    ]);
    const title = nodes.heading.create({ level: 2 }, text('A high tide'));
    expect(said(page(p('A high tide')), page(title))).toEqual([
      'formatted A high tide → A high tide',
    ]);
    // Half a word.
    expect(said(page(p('tides')), page(p(text('tide', true), 's')))).toEqual([
      'formatted tides → tides',
    ]);
  });

  it('finds what was moved, as a block and as words', () => {
    const [one, two, three] = [p('The first thing.'), p('The second thing.'), p('And a third.')];
    expect(said(page(one, two, three), page(three, one, two))).toEqual([
      'inserted  → And a third. (1)',
      'removed And a third. →  (0)',
    ]);
    const moon = 'when the moon is full, ';
    const a = page(
      p(`Look: ${moon}we all go out to the far end of the old quay.`),
      p('Later: we go home.'),
    );
    const b = page(
      p('Look: we all go out to the far end of the old quay.'),
      p(`Later: ${moon}we go home.`),
    );
    expect(said(a, b)).toEqual([
      'removed when the moon is full, →  (1)',
      'inserted  → when the moon is full, (0)',
    ]);
    // A word or two are written twice by chance.
    const [c, d] = [page(p('So we go out now.')), page(p('We go out now so.'))];
    expect(compare(c, d).every(({ moved }) => moved === null)).toBe(true);
  });

  it('goes by the ids of answers, not by what they say', () => {
    const answer = (id: string, words: string) =>
      nodes.answer_short.create({ id }, words ? text(words) : null);
    const a = page(answer('one', ''), answer('two', 'about three metres high'));
    const b = page(answer('one', 'about three metres high'), answer('two', ''));
    expect(compare(a, b).map(({ kind }) => kind)).toEqual(['inserted', 'removed']);
    const choice = (chosen: boolean) =>
      nodes.answer_choice.create({ id: 'c' }, nodes.choice.create({ id: 'x', chosen }, text('up')));
    expect(said(page(choice(false)), page(choice(true)))).toEqual(['set up → up']);
  });

  it('keeps the cells of a table in their places, and finds a row that came', () => {
    const table = (...rows: Node[]) => page(nodes.table.create(null, rows));
    const a = table(row('hour', 'height'), row('1', '1.1'), row('2', ''));
    const b = table(row('hour', 'height'), row('1', '1.1'), row('2', '1.7'), row('3', '2.6'));
    expect(said(a, b)).toEqual(['inserted  → 1.7', 'inserted  → 3|2.6']);
  });

  it('of a line as long as a page comes to an end, with words and without spaces', () => {
    const words = (letter: string) =>
      page(p(Array.from({ length: 30_000 }, (_, n) => letter + n).join(' ')));
    expect(compare(words('a'), words('b'))).toHaveLength(1);
    const [a, b] = ['潮', '月'].map((one) => page(p(one.repeat(50_000))));
    if (a && b) expect(merged(a, b, ({ is }) => is).eq(b)).toBe(true);
  });

  it('of two equal pages is empty', () => {
    expect(compare(start, start)).toEqual([]);
  });

  it('of two wholly different long pages comes to an end', () => {
    const long = (word: string) =>
      page(...Array.from({ length: 2000 }, (_, n) => p(`${word}${n} ${word}`)));
    expect(compare(long('a'), long('b')).length).toBe(4000);
  });
});

/** Some word of small letters. */
const word = fc
  .nat(300_000_000)
  .map((n) => n.toString(26).replace(/\d/g, (digit) => 'qrstuvwxyz'.charAt(Number(digit))));

/** Two pages of one random history, or of two. */
const pairs = fc.tuple(edits, edits, fc.nat(), fc.nat()).map(([one, other, i, j]) => {
  const [a, b] = [historyOf(one).pages, historyOf(other).pages];
  return [a[i % a.length] ?? start, b[j % b.length] ?? start] as const;
});

describe('a comparison of any two pages', () => {
  it('applied to the first gives the second, and nothing of it the first', () => {
    fc.assert(
      fc.property(pairs, ([a, b]) => {
        expect(merged(a, b, ({ is }) => is).toJSON()).toEqual(b.toJSON());
        expect(merged(a, b, () => null).toJSON()).toEqual(a.toJSON());
      }),
      { numRuns: 500 },
    );
  });

  it('is in the order of the page, and empty only for equal ones', () => {
    fc.assert(
      fc.property(pairs, ([a, b]) => {
        const found = compare(a, b);
        expect(found.length === 0).toBe(a.eq(b));
        const content = found.filter(({ kind }) => kind !== 'formatted' && kind !== 'set');
        const inOrder = (ranges: Range[]) =>
          ranges.every(({ from, to }, n) => from <= to && from >= (ranges[n - 1]?.to ?? 0));
        expect(inOrder(content.map(({ was }) => was))).toBe(true);
        expect(inOrder(content.map(({ is }) => is))).toBe(true);
        for (const [index, { moved }] of found.entries())
          if (moved !== null) expect(found[moved]?.moved).toBe(index);
      }),
    );
  });

  it('leaves the same words standing on both sides', () => {
    const kept = (node: Node, ranges: readonly Range[]) => {
      const without = new Transform(node);
      for (const { from, to } of ranges.toReversed()) if (to > from) without.delete(from, to);
      return without.doc.textContent;
    };
    const lines = fc
      .array(fc.constantFrom('tide', 'turns', 'high', 'low', 'the', 'moon'), { maxLength: 12 })
      .map((words) => page(words.length > 0 ? p(words.join(' ')) : p()));
    fc.assert(
      fc.property(lines, lines, (a, b) => {
        const found = compare(a, b);
        const [gone, came] = [found.map(({ was }) => was), found.map(({ is }) => is)];
        expect(kept(a, gone)).toBe(kept(b, came));
      }),
    );
  });

  it('finds changed words where the reference finds them, and nowhere else (prosemirror-changeset 2.4)', () => {
    const words = fc.uniqueArray(word, { minLength: 6, maxLength: 20 });
    fc.assert(
      fc.property(words, fc.array(fc.nat(), { maxLength: 4 }), (all, changed) => {
        const next = all.map((word, n) =>
          changed.some((one) => one % all.length === n) ? `${word}${n}` : word,
        );
        const [a, b] = [page(p(all.join(' '))), page(p(next.join(' ')))];
        const map = new StepMap([0, a.content.size, b.content.size]);
        const theirs = ChangeSet.create(a).addSteps(b, [map], null).changes;
        const ours = compare(a, b);
        // What the reference takes together where little stands between may be two of ours.
        const meets = (from: number, to: number, is: Range) => from < is.to && is.from < to;
        for (const { fromB, toB } of theirs)
          expect(ours.some(({ is }) => meets(fromB, toB, is))).toBe(true);
        for (const { is } of ours)
          expect(theirs.some(({ fromB, toB }) => meets(fromB, toB, is))).toBe(true);
      }),
    );
  });

  it('of one inserted word says what the reference says', () => {
    const words = fc.array(word, { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(words, fc.nat(), (all, at) => {
        const place = at % (all.length + 1);
        const more = [...all.slice(0, place), 'Xyz', ...all.slice(place)];
        const [a, b] = [page(p(all.join(' '))), page(p(more.join(' ')))];
        const map = new StepMap([0, a.content.size, b.content.size]);
        const [change, ...others] = ChangeSet.create(a).addSteps(b, [map], null).changes;
        expect(others).toEqual([]);
        const [difference] = compare(a, b);
        const size = (range?: Range) => (range ? range.to - range.from : -1);
        expect(size(difference?.is)).toBe((change?.toB ?? 0) - (change?.fromB ?? 0));
        expect(size(difference?.was)).toBe(0);
      }),
    );
  });
});

describe('a passage put back', () => {
  const then = page(p('One two three.'), p('Four five six.'), p('Seven eight nine.'));
  const find = (words: string) => {
    let from = -1;
    then.descendants((node, at) => {
      const index = node.isText ? (node.text ?? '').indexOf(words) : -1;
      if (index >= 0) from = at + index;
    });
    return { from, to: from + words.length };
  };

  it('comes back in its place, and what was written elsewhere since stays', () => {
    const now = page(p('One two and a half three.'), p('Four six.'), p('Seven, eight, ten.'));
    const back = withPassage(now, then, find('Four five six.'));
    expect(
      back.eq(page(p('One two and a half three.'), p('Four five six.'), p('Seven, eight, ten.'))),
    ).toBe(true);
  });

  it('comes back where its block is gone, as far as it was chosen', () => {
    const now = page(p('One two three.'), p('Seven eight nine.'), p('New.'));
    expect(
      withPassage(now, then, find('five six')).eq(
        page(p('One two three.'), p('five six'), p('Seven eight nine.'), p('New.')),
      ),
    ).toBe(true);
  });

  it('loses what stands inside of it now, and not what stands beside it', () => {
    const now = page(
      p('One two three.'),
      p('Well: four or five six, I think.'),
      p('Seven eight nine.'),
    );
    const back = withPassage(now, then, find('five six'));
    expect(back.child(1).textContent).toBe('Well: four or five six, I think.');
    const whole = withPassage(now, then, { from: 0, to: then.content.size });
    expect(whole.eq(then)).toBe(true);
  });

  it('of the whole page is that page, whatever came between', () => {
    fc.assert(
      fc.property(pairs, ([now, other]) => {
        const passage = { from: -1, to: other.content.size + 1 };
        expect(withPassage(now, other, passage).toJSON()).toEqual(other.toJSON());
      }),
    );
  });
});
