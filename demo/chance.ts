import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Seeded chance, so that two runs give the same school. */
export class Chance {
  private readonly generator;

  constructor(seed: number) {
    this.generator = xoroshiro128plus(seed);
  }

  /** A whole number, both ends included. */
  whole(least: number, most: number): number {
    return uniformInt(this.generator, least, most);
  }

  /** @param percent how often it is true */
  happens(percent: number): boolean {
    return this.whole(1, 100) <= percent;
  }

  one<T>(choices: readonly [T, ...T[]]): T {
    return choices[this.whole(0, choices.length - 1)] ?? choices[0];
  }

  /** A UUID of version 4 in form; the same seed gives the same ones. */
  id(): string {
    const hex = Array.from({ length: 32 }, () => this.whole(0, 15).toString(16));
    hex[12] = '4';
    hex[16] = this.whole(8, 11).toString(16);
    const text = hex.join('');
    return [
      text.slice(0, 8),
      text.slice(8, 12),
      text.slice(12, 16),
      text.slice(16, 20),
      text.slice(20),
    ].join('-');
  }
}
