import { describe, expect, it } from 'vitest';
import { attachedFile } from '../../../../tests/support/copies';
import { attachedLast, wholeMask } from './attached';
import { saySize, shownAs } from './shown-as';

const file = attachedFile();

describe('something attached', () => {
  it.each([
    ['image/png', 'picture'],
    ['application/pdf', 'pdf'],
    ['audio/ogg; codecs=opus', 'sound'],
    ['video/webm', 'film'],
    ['image/svg+xml', 'nothing'],
    ['text/html', 'nothing'],
    ['application/zip', 'nothing'],
    [null, 'nothing'],
  ] as const)('of the type %s is shown as %s', (type, as) => {
    expect(shownAs(type)).toBe(as);
  });

  it.each([
    [1, '1 byte'],
    [999, '999 bytes'],
    [340_400, '340 KB'],
    [2_440_000, '2.4 MB'],
    [98_700_000, '99 MB'],
  ])('of %i bytes has %s', (bytes, says) => {
    expect(saySize(bytes)).toBe(says);
  });

  it('is one part more of its copy, and done', () => {
    expect(wholeMask('010', [])).toBe('010');
    expect(wholeMask('010', [file, { ...file, at: 7 }])).toBe('0101');
    expect(wholeMask('', [file])).toBe('1');
    expect(attachedLast([file, { ...file, at: 7 }, { ...file, at: 6 }])).toBe(7);
    expect(attachedLast([])).toBeNull();
  });
});
