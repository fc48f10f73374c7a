import { describe, expect, it } from 'vitest';
import { keptVersions, sayKept } from './kept-versions';

const event = (kind: string, version: number, at: number, note = '') => ({
  kind,
  version,
  at,
  person: 'ada',
  note,
});

describe('the kept versions of a page', () => {
  it('are where it began, was handed in and back, before it was put back, and what was named', () => {
    const kept = keptVersions(
      [
        event('opened', 0, 10),
        event('handed in', 40, 20),
        event('looked', 40, 25),
        event('handed back', 41, 30),
        event('named', 12, 35, 'Before the storm'),
        event('put back', 51, 40),
      ],
      {
        first: 0,
        begun: { cause: 'handed out', at: 5 },
        replaced: null,
        version: 60,
        due: { version: 38, at: 18 },
      },
    );
    expect(kept.map((one) => [one.version, sayKept(one)])).toEqual([
      [0, 'handed out'],
      [12, 'Before the storm'],
      [38, 'when it was due'],
      [40, 'handed in'],
      [41, 'handed back'],
      [50, 'before it was put back'],
    ]);
  });

  it('end where its students were given something else', () => {
    const kept = keptVersions([], {
      first: 0,
      begun: { cause: 'handed out', at: 5 },
      replaced: 9,
      version: 3,
      due: null,
    });
    expect(kept.at(-1)).toMatchObject({ version: 3, at: 9, by: null });
    expect(kept.map(sayKept)).toEqual(['handed out', 'before another page was given']);
  });

  it('begin where the page came into somebody’s sight', () => {
    const kept = keptVersions([], {
      first: 7,
      begun: { cause: 'shown', at: 5 },
      replaced: null,
      version: 9,
      due: null,
    });
    expect(kept.map((one) => [one.version, sayKept(one)])).toEqual([[7, 'shown to the class']]);
  });

  it('of an original are also those that were handed out, with what to whom', () => {
    const kept = keptVersions(
      [],
      { first: 0, begun: { cause: 'begun', at: 5 }, replaced: null, version: 30, due: null },
      [{ version: 12, at: 40, name: 'Tides, 8C' }],
    );
    expect(kept.map(sayKept)).toEqual(['begun', 'handed out: Tides, 8C']);
  });
});
