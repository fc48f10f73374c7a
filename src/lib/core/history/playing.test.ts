import { describe, expect, it } from 'vitest';
import { nextFrame } from './playing';

describe('a history that is played', () => {
  it('goes step by step, as fast as is wished', () => {
    expect(nextFrame([0, 300, 600], 1)).toEqual({ versions: 1, wait: 300 });
    expect(nextFrame([0, 300, 600], 5)).toEqual({ versions: 1, wait: 60 });
  });

  it('shows as one what comes faster than pictures do', () => {
    expect(nextFrame([0, 300, 600, 900], 20)).toEqual({ versions: 2, wait: 30 });
    expect(nextFrame([0, 0, 0, 500], 1)).toEqual({ versions: 2, wait: 0 });
  });

  it('does not wait through a night', () => {
    expect(nextFrame([0, 12 * 3_600_000], 60)).toEqual({ versions: 1, wait: 1500 });
  });

  it('ends, and goes by the order where a clock went back', () => {
    expect(nextFrame([7], 1)).toEqual({ versions: 0, wait: 0 });
    expect(nextFrame([7, 3], 1)).toEqual({ versions: 1, wait: 0 });
  });
});
