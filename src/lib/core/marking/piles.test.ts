import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Part } from '../page/parts';
import { pileUp } from './piles';
import { saidOn } from './said-on-piles';
import { formOf, isNearly, strictOf } from './same-answer';

const short = (answer: string) => ({ kind: 'short' as const, answer, chosen: [] });
const number = (answer: string) => ({ kind: 'number' as const, answer, chosen: [] });
const nearly = (a: string, b: string) =>
  isNearly(strictOf(formOf(short(a))), strictOf(formOf(short(b))));
const answered = (kind: Part['kind'], answers: readonly string[]) =>
  answers.map((answer, index) => ({ kind, answer, chosen: [], copy: `copy ${index}` }));

describe('the form of an answer', () => {
  it.each([
    ['Three flashes, every ten seconds.', 'three flashes every 10 seconds'],
    ['  The  FLOOD ', 'flood'],
    ['a spring tide!', 'Spring tide'],
    ['1,5 metres', '1.5 metres'],
    ['it doesn’t', "It doesn't"],
  ])('is the same for “%s” and “%s”', (one, other) =>
    expect(formOf(short(one))).toBe(formOf(short(other))),
  );
  it.each([
    ['3 flashes', '4 flashes'],
    ['-2', '2'],
    ['1.5', '15'],
    ['?', '!'],
    ['x*2', 'x/2'],
    ['5 < x', '5 > x'],
  ])('is another for “%s” and “%s”', (one, other) =>
    expect(formOf(short(one))).not.toBe(formOf(short(other))),
  );
  it('of a number is its value with its unit', () => {
    expect(formOf(number('2.60 m'))).toBe(formOf(number('2,6 M')));
    expect(formOf(number('2.6'))).not.toBe(formOf(number('2.6 m')));
    expect(formOf(number('about three'))).toBe('about 3');
  });
});

describe('nearly equal answers', () => {
  it.each([
    ['a leading lihgt there', 'a leading light there'],
    ['three flashes every ten seconds', 'three flashs every 10 second'],
  ])('lie together: “%s”, “%s”', (one, other) => expect(nearly(one, other)).toBe(true));
  it.each([
    // A short word is another word; so is another number, and what is denied.
    ['ebb', 'web'],
    ['three flashes every ten seconds', 'four flashes every ten seconds'],
    ['the boat can cross the bar', 'the boat cannot cross the bar'],
    ['the boat should cross now', "the boat shouldn't cross now"],
    ['high water at the quay', 'low water at the quay'],
  ])('do not lie together: “%s”, “%s”', (one, other) => expect(nearly(one, other)).toBe(false));
});

describe('piles', () => {
  it('lie around what most wrote, the largest first, and say what most wrote', () => {
    const piles = pileUp(
      answered('short', [
        'Leading line',
        'a leading line',
        'leading lyne',
        'Leading line',
        'a cross bearing',
        '',
        'transit',
      ]),
    );
    expect(
      piles.map(({ answer, answers, nearly: isNear }) => [answer, answers.length, isNear]),
    ).toEqual([
      ['Leading line', 4, true],
      ['a cross bearing', 1, false],
      ['transit', 1, false],
    ]);
  });

  it('do not join what is nearly the same as something that is nearly the same', () => {
    const [first, second] = pileUp(
      answered('short', ['abcdefghijkl', 'abcdefghijkl', 'abcdefghijxl', 'abcdefghizxl']),
    );
    expect(first?.answers).toHaveLength(3);
    expect(second?.answer).toBe('abcdefghizxl');
  });

  it('leave alone what somebody took out, and pile choices by what was chosen', () => {
    const answers = answered('short', ['same', 'same', 'same']);
    expect(pileUp(answers, new Set(['copy 1'])).map((pile) => pile.answers.length)).toEqual([2, 1]);
    const chosen = (copy: string, ...ids: string[]) => ({
      kind: 'choice' as const,
      answer: ids.join(', '),
      chosen: ids,
      copy,
    });
    const choices = [chosen('1', 'a', 'b'), chosen('2', 'b', 'a'), chosen('3', 'a')];
    expect(pileUp(choices).map((pile) => pile.answers.length)).toEqual([2, 1]);
  });

  it('hold each answer once, equal ones together, in whatever order they come', () => {
    const words = fc
      .array(
        fc.constantFrom('tide', 'the', 'tides', '3', 'three', 'not', 'rising', 'rizing', '.'),
        {
          maxLength: 5,
        },
      )
      .map((some) => some.join(' '));
    fc.assert(
      fc.property(fc.array(words, { maxLength: 30 }), fc.nat(), (texts, turn) => {
        const answers = answered('short', texts);
        const piles = pileUp(answers);
        const all = piles.flatMap((pile) => pile.answers);
        const given = answers.filter(({ answer }) => answer !== '');
        expect(all.map(({ copy }) => copy).sort()).toEqual(given.map(({ copy }) => copy).sort());
        for (const one of given)
          for (const other of given) {
            if (formOf(one) === '' || formOf(one) !== formOf(other)) continue;
            const of = (copy: string) =>
              piles.find((pile) => pile.answers.some((x) => x.copy === copy));
            expect(of(one.copy)).toBe(of(other.copy));
          }
        const turned = answers.map((_, i) => answers[(i + turn) % answers.length] ?? answers[0]);
        expect(pileUp(turned.flatMap((one) => one ?? []))).toEqual(piles);
      }),
    );
  });
});

describe('what was said on a pile', () => {
  const which = { text: 'Which?', keptBack: false };
  const units = { text: 'In metres?', keptBack: false };
  it('is shown once, with on how many of its answers it was said', () => {
    const later = { ...which, keptBack: true };
    expect(
      saidOn([{ said: [which, which] }, { said: [] }, { said: [which, units] }, { said: [later] }]),
    ).toEqual([
      { ...which, answers: 2 },
      { ...units, answers: 1 },
      { ...later, answers: 1 },
    ]);
  });
});
