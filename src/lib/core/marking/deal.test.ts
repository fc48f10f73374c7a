import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dealCopies, dealFault } from './deal';

const names = (count: number, sign: string) =>
  Array.from({ length: count }, (_, index) => `${sign}${index}`);

describe('dealing copies to those who mark', () => {
  it('gives everybody the same number, and two people those that are marked twice', () => {
    const asked = fc.record({
      copies: fc.integer({ min: 0, max: 60 }),
      markers: fc.integer({ min: 2, max: 6 }),
      share: fc.double({ min: 0, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(asked, ({ copies: count, markers: people, share }) => {
        const copies = names(count, 'copy').map((id) => ({ id, group: '' }));
        const markers = names(people, 'marker');
        const twice = Math.floor(share * count);
        const dealt = [...dealCopies(copies, { by: 'evenly', twice, markers }).values()];
        expect(dealt.filter((some) => some.length === 2)).toHaveLength(twice);
        expect(dealt.every((some) => new Set(some).size === some.length && some.length > 0)).toBe(
          true,
        );
        const loads = markers.map((id) => dealt.flat().filter((one) => one === id).length);
        expect(Math.max(...loads) - Math.min(...loads)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('keeps a group with one person, the largest first, and who is in none wherever there is room', () => {
    const copies = ['A', 'B', 'B', 'B', 'C', 'C', ''].map((group, index) => ({
      id: `${index}`,
      group,
    }));
    const dealt = dealCopies(copies, { by: 'group', twice: 0, markers: ['Ada', 'Bea'] });
    expect(Object.fromEntries(dealt)).toEqual({
      1: ['Ada'],
      2: ['Ada'],
      3: ['Ada'],
      4: ['Bea'],
      5: ['Bea'],
      0: ['Bea'],
      6: ['Ada'],
    });
    const second = dealCopies(copies, { by: 'group', twice: 7, markers: ['Ada', 'Bea'] });
    expect([...second.values()].every((some) => new Set(some).size === 2)).toBe(true);
  });

  it('says what cannot be dealt', () => {
    const one = { by: 'evenly', twice: 0, markers: ['Ada'] } as const;
    expect(dealFault(one, 3)).toBeNull();
    expect(dealFault({ ...one, markers: [] }, 3)).toBe('Choose who marks.');
    expect(dealFault({ ...one, twice: 1 }, 3)).toBe('It takes two people to mark a copy twice.');
    expect(dealFault({ ...one, twice: 4, markers: ['Ada', 'Bea'] }, 3)).toBe(
      'That is more than there are copies.',
    );
  });
});
