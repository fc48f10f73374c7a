import { describe, expect, it } from 'vitest';
import { forest, type Branch } from './forest';

const row = (id: string, depth: number) => ({ id, depth });
const drawn = (branches: Branch<ReturnType<typeof row>>[]): string =>
  branches.map(({ id, under }) => (under.length ? `${id}(${drawn(under)})` : id)).join(' ');

describe('a list as trees', () => {
  const rows = [row('a', 0), row('a1', 1), row('a1i', 2), row('a2', 1), row('b', 0), row('c', 0)];

  it('puts each row under the last one over it', () => {
    expect(drawn(forest(rows, () => true))).toBe('a(a1(a1i) a2) b c');
    expect(forest([], () => true)).toEqual([]);
  });

  it('keeps what stands over something shown', () => {
    expect(drawn(forest(rows, ({ id }) => id === 'a1i' || id === 'c'))).toBe('a(a1(a1i)) c');
    expect(drawn(forest(rows, ({ id }) => id === 'a'))).toBe('a');
  });
});
