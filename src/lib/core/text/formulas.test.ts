import { describe, expect, it } from 'vitest';
import { piecesOf } from './formulas';

const shown = (text: string) =>
  piecesOf(text).map((piece) => (piece.kind === 'formula' ? `[${piece.tex}]` : piece.text));

describe('formulas in a text', () => {
  // The cases of the Pandoc User’s Guide, extension tex_math_dollars; from memory.
  it.each([
    ['$20,000 and $30,000', ['$20,000 and $30,000']],
    ['It is $x^2$.', ['It is ', '[x^2]', '.']],
    ['$ x$ and $x $', ['$ x$ and $x $']],
    ['\\$x\\$', ['$x$']],
    ['$a$ and $b$', ['[a]', ' and ', '[b]']],
  ])('are found as Pandoc finds them in %s', (text, pieces) => {
    expect(shown(text)).toEqual(pieces);
  });

  it('end in their line, hold an escaped dollar sign, and are never empty', () => {
    expect(shown('$a\nb$')).toEqual(['$a\nb$']);
    expect(shown('$5\\$+1$')).toEqual(['[5\\$+1]']);
    expect(shown('$$')).toEqual(['$$']);
    expect(shown('')).toEqual([]);
    expect(shown('no formula')).toEqual(['no formula']);
  });
});
