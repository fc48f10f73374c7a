import { describe, expect, it } from 'vitest';
import { momentsBetween, statesOverTime, type CopyHistory } from './states-over-time';

const copy = (of: Partial<CopyHistory>): CopyHistory => ({
  made: 0,
  events: [],
  sittings: [],
  scores: [],
  ...of,
});
const event = (kind: CopyHistory['events'][number]['kind'], at: number) => ({
  kind,
  at,
  person: 'ada',
});

describe('the states of copies over time', () => {
  it('are those that the facts until each moment say', () => {
    const ada = copy({
      events: [event('opened', 10), event('handed in', 30), event('handed back', 50)],
      sittings: [20, 60],
      scores: [40],
    });
    const states = statesOverTime([ada], [0, 10, 20, 30, 40, 50, 60]).map((counts) =>
      Object.entries(counts).flatMap(([state, n]) => (n > 0 ? [state] : [])),
    );
    // What goes on after it came back counts as work.
    expect(states.flat()).toEqual([
      'unopened',
      'opened',
      'working',
      'handed in',
      'marked',
      'handed back',
      'working',
    ]);
  });

  it('count each copy once, from when it was there', () => {
    const later = copy({ made: 25 });
    const taken = copy({
      events: [event('opened', 5), event('handed in', 10), event('taken back', 20)],
      sittings: [6],
    });
    const counts = statesOverTime([later, taken], [5, 15, 25]);
    expect(counts.map((one) => Object.values(one).reduce((sum, n) => sum + n))).toEqual([1, 1, 2]);
    expect(counts[1]).toMatchObject({ 'handed in': 1 });
    expect(counts[2]).toMatchObject({ working: 1, unopened: 1 });
  });

  it('are asked for at moments that are an hour apart at least, both ends included', () => {
    expect(momentsBetween(0, 2 * 3_600_000, 60)).toEqual([0, 3_600_000, 7_200_000]);
    expect(momentsBetween(0, 100 * 3_600_000, 4)).toHaveLength(5);
    expect(momentsBetween(5, 5, 4)).toEqual([5, 5]);
  });
});
