import { describe, expect, it } from 'vitest';
import type { Part } from '../page/parts';
import { Checked, checkParts } from './check-copy';
import type { Keys } from './key-changes';
import { overruledIn, rightOf } from './sum-checked';

const part = (id: string, answer: string, more: Partial<Part> = {}): Part => ({
  id,
  kind: 'short',
  number: 1,
  label: `What is ${id}?`,
  done: answer !== '',
  answer,
  chosen: [],
  detail: '',
  ...more,
});
const KEYS: Keys = {
  name: { kind: 'short', accepted: ['ebb'] },
  height: { kind: 'number', value: '2.6', tolerance: '0.1', unit: 'm' },
};

describe('the check of a copy', () => {
  it('counts parts with a key, each the same, and says of each why', () => {
    const parts = [
      part('name', ' EBB '),
      part('height', '2.6 kg', { kind: 'number' }),
      part('essay', 'Long.', { kind: 'writing' }),
    ];
    const checked = checkParts(parts, KEYS);
    expect(checked?.parts.map(({ id, verdict }) => [id, verdict])).toEqual([
      ['name', 'right'],
      ['height', 'wrong unit'],
    ]);
    expect(checked && rightOf(checked)).toEqual({ right: 1, of: 2 });
    expect(checkParts(parts, {})).toBeNull();
    expect(checkParts([], KEYS)).toBeNull();
  });

  it('counts a part as somebody decided, whatever its key says, and keeps that', () => {
    const parts = [part('name', 'flood'), part('height', '', { kind: 'number' })];
    const checked = checkParts(parts, KEYS, { name: 'right', gone: 'right' });
    expect(checked?.parts).toMatchObject([
      { verdict: 'wrong', overruled: 'right' },
      { verdict: 'no answer' },
    ]);
    expect(checked && rightOf(checked)).toEqual({ right: 1, of: 2 });
    expect(overruledIn(checked)).toEqual({ name: 'right' });
    expect(overruledIn(null)).toEqual({});
  });

  it('holds nothing of the keys, and no more of an answer than is shown', () => {
    const checked = checkParts([part('name', 'x'.repeat(5000))], KEYS);
    expect(Checked.parse(checked).parts[0]?.answer).toHaveLength(500);
    expect(JSON.stringify(checked)).not.toContain('ebb');
  });
});
