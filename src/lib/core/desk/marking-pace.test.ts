import { describe, expect, it } from 'vitest';
import { markingPace, sayMarkingTime } from './marking-pace';

const MINUTE = 60_000;
const marked = (...minutes: number[]) =>
  minutes.map((at, i) => ({ copy: `copy ${i}`, at: at * MINUTE }));

describe('the pace of marking', () => {
  it('is what half of the last copies took less than', () => {
    expect(markingPace(marked(0, 4, 10, 13, 18, 30))).toBe(5 * MINUTE);
  });

  it('leaves out pauses, and counts a copy that is scored several times once', () => {
    const evening = marked(0, 5, 10, 15);
    const morning = marked(0, 5, 10).map(({ copy, at }) => ({
      copy: `${copy} again`,
      at: at + 600 * MINUTE,
    }));
    const [first] = evening;
    const twice = first ? [first, { ...first, at: MINUTE / 2 }] : [];
    expect(markingPace([...twice, ...evening.slice(1), ...morning])).toBe(5 * MINUTE);
  });

  it('is not told from a few', () => {
    expect(markingPace(marked(0, 5, 10, 15, 20))).toBeNull();
    expect(markingPace([])).toBeNull();
  });

  it('is said in minutes and hours', () => {
    expect(sayMarkingTime(7, 5 * MINUTE)).toBe('about 35 min');
    expect(sayMarkingTime(1, 20_000)).toBe('about 1 min');
    expect(sayMarkingTime(24, 5 * MINUTE)).toBe('about 2 h');
    expect(sayMarkingTime(23, 5.5 * MINUTE)).toBe('about 2 h 5 min');
  });
});
