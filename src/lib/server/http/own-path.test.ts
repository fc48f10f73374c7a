import { describe, expect, it } from 'vitest';
import { ownPath } from './own-path';

describe('the way after signing in', () => {
  it.each(['/desk', '/classes/1/plan?x=1#y', '/work/a%20b'])('leads to %s', (to) =>
    expect(ownPath(to)).toBe(to),
  );

  it.each([
    '//host',
    '/\t/host',
    '/\\host',
    '\\\\host',
    'https://host/',
    '/..//host',
    'javascript:1',
    '',
    '/\n/host',
    '/.//host',
  ])('never leads elsewhere by %j', (to) => expect(ownPath(to)).toBe('/'));
});
