/** A piece of a text: words, or a formula in TeX. */
export type Piece = { kind: 'words'; text: string } | { kind: 'formula'; tex: string };

/**
 * A formula between two dollar signs, as the Pandoc User’s Guide has it (extension `tex_math_dollars`): the first has something
 * other than a space right after it, the last something other than a space right before it and no digit after it. So “$20,000 and
 * $30,000” holds none. A dollar sign after a backslash is only that.
 */
const FORMULA = /(?<!\\)\$(?=[^\s$])((?:\\.|[^$\\\n])*?)(?<=\S)(?<!\\)\$(?!\d)/g;

const words = (text: string): Piece[] =>
  text === '' ? [] : [{ kind: 'words', text: text.replaceAll('\\$', '$') }];

/** A text in its pieces, in order. */
export function piecesOf(text: string): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  for (const found of text.matchAll(FORMULA)) {
    pieces.push(...words(text.slice(at, found.index)), { kind: 'formula', tex: found[1] ?? '' });
    at = found.index + found[0].length;
  }
  return [...pieces, ...words(text.slice(at))];
}

export const hasFormula = (text: string): boolean =>
  piecesOf(text).some(({ kind }) => kind === 'formula');

/** The largest size that a formula sets by itself, in ems: none covers a view. */
export const MOST_EMS = 20;
