import { describe, expect, it } from 'vitest';
import { firstLevel, nextLevel, sayLost, type Level } from './level';

const MINUTE = 60_000;
/** A page whose changes leave so many words and strokes, each at its minute; every change is a version. */
const after = (...changes: [minute: number, words: number, strokes?: number][]): Level =>
  changes.reduce(
    (level, [minute, words, strokes = 0], i) =>
      nextLevel(level, {
        at: minute * MINUTE,
        version: i + 1,
        words,
        strokes,
        pasted: 0,
        pairs: null,
      }),
    firstLevel({ version: 0, words: 0, strokes: 0 }),
  );

describe('a page that lost its work', () => {
  it('is one that fell below a fifth in one sitting, from where it stood highest', () => {
    // The look’s own example: 231 words, 19 left after a sitting of two minutes.
    const level = after([0, 100], [5, 231], [6, 120], [7, 19]);
    expect(level.loss).toEqual({ version: 2, words: 231, left: 19, at: 7 * MINUTE });
    expect(after([0, 100], [1, 20]).loss).toBeNull();
    expect(after([0, 100], [1, 19]).loss).not.toBeNull();
  });

  it('may have been written in a sitting before, but not given up little by little', () => {
    expect(after([0, 100], [60, 3]).loss).toMatchObject({ version: 1, words: 100, left: 3 });
    expect(after([0, 100], [20, 60], [40, 30], [60, 12]).loss).toBeNull();
  });

  it('is no matter of a few words', () => {
    expect(after([0, 19], [1, 0]).loss).toBeNull();
    expect(after([0, 20], [1, 0]).loss).not.toBeNull();
  });

  it('stays a gap while somebody goes on below half of it, and is none from there on', () => {
    const fell = [
      [0, 100],
      [1, 0],
    ] as [number, number][];
    expect(after(...fell, [30, 34], [60, 49]).loss).toMatchObject({ version: 1, words: 100 });
    expect(after(...fell, [30, 50]).loss).toBeNull();
  });

  it('is told by its greatest loss', () => {
    const level = after([0, 200], [1, 0], [30, 40], [31, 0]);
    expect(level.loss).toMatchObject({ version: 1, words: 200 });
    const greater = after([0, 40], [1, 0], [2, 300], [3, 0]);
    expect(greater.loss).toMatchObject({ version: 3, words: 300 });
  });

  it('is one whose drawing was emptied, however much is written beside it', () => {
    const level = after([0, 200, 30], [1, 200, 31], [2, 201, 2]);
    expect(level.loss).toEqual({ version: 2, strokes: 31, left: 2, at: 2 * MINUTE });
    expect(after([0, 200, 19], [1, 200, 0]).loss).toBeNull();
    expect(after([0, 200, 30], [1, 200, 6]).loss).toBeNull();
    // Erased little by little, over sittings.
    expect(after([0, 0, 30], [20, 0, 15], [40, 0, 4]).loss).toBeNull();
    // Drawn again, or written: words make up for no stroke.
    expect(after([0, 0, 30], [1, 0, 0], [30, 99, 14]).loss).toMatchObject({ strokes: 30 });
    expect(after([0, 0, 30], [1, 0, 0], [30, 0, 15]).loss).toBeNull();
  });

  it('says what went: words, or strokes', () => {
    expect(sayLost({ words: 231 })).toBe('231 words');
    expect(sayLost({ strokes: 1 })).toBe('1 stroke');
  });
});
