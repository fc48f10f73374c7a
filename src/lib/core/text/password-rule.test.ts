import { dictionary } from '@zxcvbn-ts/language-common';
import { describe, expect, it } from 'vitest';
import { passwordFault } from './password-rule';

const common = new Set(dictionary['passwords-common']);

describe('the rule for passwords (NIST SP 800-63B, 5.1.1.2)', () => {
  it.each([
    ['1234567', 'at least 8'],
    ['password', 'many people'],
    ['PASSWORD', 'many people'],
    ['12345678', 'many people'],
    ['Ada.Fennick', 'your own name'],
    ['x'.repeat(201), 'at most'],
  ])('refuses %s', (password, says) => {
    expect(passwordFault(password, common, ['ada.fennick'])).toContain(says);
  });

  it.each(['skerry-point', 'three short words', 'ẞüßchen-14', '🦭🦭🦭🦭🦭🦭🦭🦭'])(
    'takes %s',
    (password) => {
      expect(passwordFault(password, common, ['ada.fennick'])).toBeNull();
    },
  );
});
