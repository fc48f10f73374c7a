import { describe, expect, it } from 'vitest';
import type { Part } from '../page/parts';
import { stuckPart } from './stuck';

const MINUTE = 60_000;
const part = (id: string, done = false): Part => ({
  id,
  number: 1,
  label: id,
  kind: 'writing',
  answer: '',
  chosen: [],
  detail: '',
  done,
});
const copy = (minutes: Record<string, number>, done: string[] = []) => ({
  parts: ['how', 'why'].map((id) => part(id, done.includes(id))),
  paces: new Map(
    Object.entries(minutes).map(([id, time]) => [
      id,
      { time: time * MINUTE, added: 1, removed: 0 },
    ]),
  ),
});

describe('somebody is stuck', () => {
  const others = [3, 4, 5, 4, 11].map((why) => copy({ why, how: 2 }, ['how', 'why']));

  it('on a part that is not done and took them three times as long as half of the class, ten minutes at least', () => {
    const slow = copy({ why: 40, how: 3 });
    expect(stuckPart(slow, [slow, ...others])).toMatchObject({
      part: { id: 'why' },
      minutes: 40,
      others: 1,
    });
    const brisk = copy({ why: 9 });
    expect(stuckPart(brisk, [brisk, ...others])).toBeNull();
    const usual = copy({ why: 14 });
    expect(stuckPart(usual, [usual, ...others])).toMatchObject({ minutes: 14 });
    const steady = [12, 12, 12, 12, 12].map((why) => copy({ why }));
    expect(stuckPart(usual, [usual, ...steady])).toBeNull();
  });

  it('not once it is done, nor where too few worked on it', () => {
    const done = copy({ why: 40 }, ['why']);
    expect(stuckPart(done, [done, ...others])).toBeNull();
    const slow = copy({ why: 40 });
    expect(stuckPart(slow, [slow, ...others.slice(0, 3)])).toBeNull();
  });
});
