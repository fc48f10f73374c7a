import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { lettersOf } from './letters';
import { ALWAYS_FROM, findAlike, NEVER_BELOW, passagesOf } from './shared-passages';
import { hashesOf, winnow } from './winnow';

const page = (...lines: string[]) =>
  schema.node(
    'doc',
    null,
    lines.map((line) => schema.node('paragraph', null, line ? [schema.text(line)] : [])),
  );
const copy = (id: string, ...lines: string[]) => ({ id, lines: lettersOf(page(...lines)) });

describe('winnowing', () => {
  // Schleimer, Wilkerson and Aiken 2003, figure 2 (from memory): 5-grams of "adorunrunrunadorunrun", windows of 4.
  const HASHES = [77, 74, 42, 17, 98, 50, 17, 98, 8, 88, 67, 39, 77, 74, 42, 17, 98];

  it('chooses the fingerprints of the paper’s example, with their positions', () => {
    expect(winnow(HASHES, 4).map(({ hash, at }) => [hash, at])).toEqual([
      [17, 3],
      [17, 6],
      [8, 8],
      [39, 11],
      [17, 15],
    ]);
  });

  it('hashes equal k-grams equally: those of the paper’s text repeat where its hashes do', () => {
    const hashes = hashesOf('adorunrunrunadorunrun', 5);
    expect(hashes).toHaveLength(HASHES.length);
    for (const [i, one] of HASHES.entries())
      for (const [j, other] of HASHES.entries())
        expect(hashes[i] === hashes[j], `${i} ${j}`).toBe(one === other);
  });

  it('chooses one of every window, and no other than a window’s smallest', () => {
    const lists = fc.array(fc.nat(20), { maxLength: 60 });
    fc.assert(
      fc.property(lists, fc.integer({ min: 1, max: 8 }), (hashes, window) => {
        const chosen = winnow(hashes, window);
        const wanted = new Set<number>();
        for (let i = 0; i + Math.min(window, hashes.length) <= hashes.length; i++) {
          const some = hashes.slice(i, i + window);
          if (some.length > 0) wanted.add(i + some.lastIndexOf(Math.min(...some)));
        }
        expect(chosen.map(({ at }) => at)).toEqual([...wanted].sort((a, b) => a - b));
        for (const { hash, at } of chosen) expect(hash).toBe(hashes[at]);
      }),
    );
  });
});

describe('copies that share passages', () => {
  const TASK =
    'Say in your own words what the harbour light shows to a boat that comes in at night.';
  const SAID = 'The light shows red over the rocks, and white where the water is deep enough.';

  it('are found by them, whatever signs, spaces and large letters they have', () => {
    const [alike] = findAlike(
      [
        copy('ada', TASK, `I think: ${SAID}`),
        copy('ben', TASK, 'Nothing of that kind is to be found in this one, it has its own.'),
        copy('teo', TASK, 'Short.', SAID.toUpperCase().replaceAll(',', ' –')),
      ],
      lettersOf(page(TASK)),
    );
    expect(alike).toMatchObject({ one: 'ada', other: 'teo' });
    const [passage] = alike?.passages ?? [];
    const [ada, teo] = [
      page(TASK, `I think: ${SAID}`),
      page(TASK, 'Short.', SAID.toUpperCase().replaceAll(',', ' –')),
    ];
    expect(ada.textBetween(passage?.one.from ?? 0, passage?.one.to ?? 0)).toBe(SAID.slice(0, -1));
    expect(teo.textBetween(passage?.other.from ?? 0, passage?.other.to ?? 0)).toMatch(
      /^THE LIGHT.*ENOUGH$/,
    );
    expect(passage?.letters).toBe(SAID.replaceAll(/[^a-z]/gi, '').length);
  });

  it('stand with each passage, all who have it together', () => {
    const OTHER = 'From the quay you see the headland first, and the breakwater only later.';
    const copies = [
      copy('ada', SAID, OTHER),
      copy('ben', SAID),
      copy('teo', SAID),
      copy('zoe', OTHER),
    ];
    const found = passagesOf(findAlike(copies, []));
    expect(found.map((one) => one.copies)).toEqual([
      ['ada', 'ben', 'teo'],
      ['ada', 'zoe'],
    ]);
    const { from = 0, to = 0 } = found[1]?.at ?? {};
    expect(page(SAID, OTHER).textBetween(from, to)).toBe(OTHER.slice(0, -1));
  });

  it('are not where the original says it, nor where the same students have both', () => {
    const copies = [copy('ada', TASK), copy('ben', TASK)];
    expect(findAlike(copies, lettersOf(page(TASK)))).toEqual([]);
    expect(findAlike(copies, [])).toHaveLength(1);
    expect(findAlike(copies, [], () => true)).toEqual([]);
  });

  it('are not by equal short answers, one below the other', () => {
    const answers = ['1.9 m', '2.6 m', '3.4 m', '3.8 m', 'red', 'white', 'green', 'the east quay'];
    expect(findAlike([copy('ada', ...answers), copy('ben', ...answers)], [])).toEqual([]);
  });

  it('are found by everything of forty letters, and by nothing below', () => {
    const letters = (min: number, max: number) =>
      fc.string({ unit: fc.constantFrom(...'abcdefgh'), minLength: min, maxLength: max });
    fc.assert(
      fc.property(letters(0, 60), letters(0, 60), letters(1, 90), (before, after, shared) => {
        const one = copy('one', `${before}x${shared}x${after}`);
        const other = copy('other', `${after}y${shared}y${before}`);
        const [found] = findAlike([one, other], []);
        const longest = Math.max(0, ...(found?.passages ?? []).map((passage) => passage.letters));
        if (shared.length >= ALWAYS_FROM) expect(longest).toBeGreaterThanOrEqual(shared.length);
        if (Math.max(shared.length, before.length, after.length) < NEVER_BELOW)
          expect(longest).toBe(0);
      }),
    );
  });

  it('are told apart from what is only a repetition of one’s own', () => {
    const [alike, ...others] = findAlike([copy('ada', SAID, SAID), copy('ben', SAID)], []);
    expect(others).toEqual([]);
    expect(alike?.passages).toHaveLength(1);
  });
});
