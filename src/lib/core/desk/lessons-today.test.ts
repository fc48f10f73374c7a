import { describe, expect, it } from 'vitest';
import { reduceEvents } from '../copy/reduce';
import type { CopyFacts } from '../copy/state';
import { dayOfLessons, sayLesson } from './lessons-today';

const MINUTE = 60_000;
const lesson = (from: number, to: number) => ({ starts: from * MINUTE, ends: to * MINUTE });
const { openers: _openers, ...nothing } = reduceEvents([], '');
const copy = (of: Partial<CopyFacts> = {}) => ({
  facts: {
    ...nothing,
    written: null,
    attached: null,
    scored: null,
    due: null,
    allowance: null,
    ...of,
  },
});

describe('a day of lessons', () => {
  it('has what is free between them for half an hour, and after the last', () => {
    const day = dayOfLessons([lesson(200, 250), lesson(0, 50), lesson(60, 110)], 70 * MINUTE);
    expect(
      day.map((entry) => [
        entry.kind,
        entry.starts / MINUTE,
        entry.kind === 'lesson' ? entry.now : entry.ends && entry.ends / MINUTE,
      ]),
    ).toEqual([
      ['lesson', 0, false],
      ['lesson', 60, true],
      ['free', 110, 200],
      ['lesson', 200, false],
      ['free', 250, null],
    ]);
    expect(dayOfLessons([], 0)).toEqual([]);
  });

  it('says how the copies stand in it, and before it', () => {
    const copies = [
      copy(),
      copy({ opened: 1, written: 100_000 }),
      copy({ opened: 1, written: 1 }),
      copy({ opened: 1 }),
    ];
    const say = (running: boolean, some = copies) =>
      sayLesson({ title: 'Tides', running }, some, 110_000);
    expect(say(true)).toBe('Tides: 1 writing now, 2 of 4 not begun');
    expect(say(false)).toBe('2 of 4 began Tides');
    expect(say(true, [])).toBe('Tides');
  });
});
