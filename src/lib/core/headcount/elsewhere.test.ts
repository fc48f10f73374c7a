import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { carriedBy, marksOf, shareCarried, type Marks } from './elsewhere';

const page = (...lines: string[]) =>
  schema.nodes.doc.create(
    null,
    lines.map((line) => schema.nodes.paragraph.create(null, schema.text(line))),
  );
const BEACH = [
  'Walk from the wall to the water and note the height at every fifth step.',
  'Draw the profile of the beach, and say where the steepest stretch is.',
];
const HARBOUR = [
  'Stand at the end of the mole and draw the harbour as a skipper sees it.',
  'Write about 120 words on what somebody has to know who comes in at night.',
];
const carries = (own: Marks, original: Marks, from: Marks | null) =>
  shareCarried(own, original, from) > 0;
const marks = (...lines: string[]) => marksOf(page(...lines));

describe('a page that carries an original', () => {
  it('has most of its text, however that is set and whatever stands between', () => {
    const own = marks(
      'Stand at the end of the mole, and draw the harbour as a skipper sees it!',
      'I stood there on Sunday with my brother and it rained.',
      'Write about 120 words on what somebody has to know who comes in at night',
    );
    expect(carries(own, marks(...HARBOUR), null)).toBe(true);
    expect(carries(own, marks(...BEACH), null)).toBe(false);
  });

  it('is not one that has the text of the original that it comes from, and no more', () => {
    expect(carries(marks(...BEACH), marks(...HARBOUR), marks(...BEACH))).toBe(false);
    expect(carries(marks(...BEACH, ...HARBOUR), marks(...HARBOUR), marks(...BEACH))).toBe(true);
    // What both originals say tells nothing.
    const both = [...BEACH, ...HARBOUR.slice(0, 1)];
    expect(carries(marks(...both), marks(...HARBOUR.slice(0, 1)), marks(...both))).toBe(false);
  });

  it('carries the one of which most stands there, where several begin alike', () => {
    const shared = 'Look at it from the end of the mole, and say what a skipper has to know.';
    const [one, other] = [
      { id: 'harbour', marks: marks(shared, ...HARBOUR.slice(1)) },
      { id: 'beach', marks: marks(shared, ...BEACH.slice(1)) },
    ];
    const page = marks(shared, ...BEACH.slice(1), 'It is long.');
    expect(carriedBy(page, [one, other], null)?.id).toBe('beach');
    expect(carriedBy(marks('Nothing of any of them, but long enough.'), [one, other], null)).toBe(
      null,
    );
  });

  it('is not told of an original with next to no text', () => {
    expect(carries(marks('Draw it.', 'And say why.'), marks('Draw it.'), null)).toBe(false);
    expect(carries(marks('Draw the harbour'), marks('Draw the harbour'), null)).toBe(false);
  });
});
