import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readHandlers } from '../support/handlers';

/** The table of docs/what-can-be-done.md: a thing, and for each of four deeds the cell. */
const [heads = [], , ...rows] = readFileSync('docs/what-can-be-done.md', 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('|'))
  .map((line) =>
    line
      .slice(1, -1)
      .split('|')
      .map((cell) => cell.trim()),
  );

describe('whatever somebody makes', () => {
  it('can be changed, removed and brought back: no gap in the table', async () => {
    expect(heads).toEqual(['thing', 'made', 'changed', 'removed', 'brought back']);
    expect(rows.length).toBeGreaterThan(25);
    const known = new Set((await readHandlers()).map(({ name }) => name));
    const gaps = rows.flatMap(([thing, ...cells]) =>
      heads.slice(1).flatMap((deed, index) => {
        const cell = cells[index] ?? '';
        const isThere = known.has(/^`([^`]+)`$/.exec(cell)?.[1] ?? '');
        // What cannot be done says why, in a few words; making can always be done.
        const isSaid = index > 0 && /^– \S+ \S+ \S+/.test(cell);
        return isThere || isSaid ? [] : [`${thing}, ${deed}: ${cell || 'nothing'}`];
      }),
    );
    expect(gaps).toEqual([]);
  });
});
