import { describe, expect, it } from 'vitest';
import { weeksOf } from '../calendar/weeks';
import { storyOfWeeks } from './story-of-weeks';

const MINUTE = 60_000;
const at = (text: string) => Date.parse(`${text}Z`);
const TERM = { starts: '2026-09-01', ends: '2026-12-18' };
const WEEKS = weeksOf(TERM, [{ starts: '2026-10-26', ends: '2026-10-30' }]);
const worked = (page: string, text: string, minutes: number) => ({
  page,
  from: at(text),
  to: at(text) + minutes * MINUTE,
});
const tell = (now: string, some: ReturnType<typeof worked>[], timeZone = 'UTC') =>
  storyOfWeeks(
    WEEKS,
    some,
    [
      { page: 'tides', at: at('2026-09-11T09:00'), kind: 'handed in', points: null },
      { page: 'tides', at: at('2026-09-14T09:00'), kind: 'handed back', points: '8.5' },
    ],
    {
      lessons: [{ starts: at('2026-09-08T10:00'), ends: at('2026-09-08T10:50') }],
      timeZone,
      now: at(now),
    },
  );

describe('the story of a student’s weeks', () => {
  it('says of each week until now how long they worked, on what, and what happened', () => {
    const story = tell('2026-09-16T12:00', [
      worked('tides', '2026-09-08T10:10', 30),
      worked('lights', '2026-09-08T19:00', 45),
      worked('tides', '2026-09-10T12:00', 0),
    ]);
    expect(story.map(({ number, monday }) => [number, monday])).toEqual([
      [1, '2026-08-31'],
      [2, '2026-09-07'],
      [3, '2026-09-14'],
    ]);
    expect(story[1]).toMatchObject({
      lessons: 30 * MINUTE,
      evenings: 45 * MINUTE,
      other: MINUTE,
      pages: [
        { page: 'lights', time: 45 * MINUTE },
        { page: 'tides', time: 31 * MINUTE },
      ],
      happened: [{ kind: 'handed in' }],
    });
    expect(story[2]?.happened).toMatchObject([{ kind: 'handed back', points: '8.5' }]);
    expect(story[0]).toMatchObject({ pages: [], happened: [], holiday: false });
  });

  it('goes by the school’s clock, and knows a week of holidays', () => {
    // Sunday evening in London is Monday in Auckland.
    const sunday = [worked('tides', '2026-09-13T20:00', 10)];
    const in3 = (timeZone: string) => tell('2026-11-01T00:00', sunday, timeZone)[2]?.pages.length;
    expect([in3('UTC'), in3('Pacific/Auckland')]).toEqual([0, 1]);
    const holidays = tell('2026-11-08T00:00', []).filter(({ holiday }) => holiday);
    expect(holidays.map(({ monday }) => monday)).toEqual(['2026-10-26']);
  });
});
