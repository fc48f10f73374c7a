/** A stretch of a text around what was looked for: plain and found pieces, in order. */
export type Snippet = { text: string; found: boolean }[];

/** Each sign without case and accents; one sign stays one, so that places are those of the text. */
const folded = (text: string) =>
  [...text].map((sign) => {
    const plain = sign.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
    return [...plain][0] ?? sign;
  });

const isLetter = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}]/u.test(sign);

/** The words somebody looks for. */
export const termsOf = (query: string): string[] =>
  folded(query)
    .join('')
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .slice(0, 8);

/**
 * What somebody looks for with signs in it ("a/b", "🦀"), in lower case: it is to stand there as it was typed. Null for words
 * alone, which may stand anywhere; a hyphen, an apostrophe and what ends a sentence belong to words.
 */
export function literalOf(query: string): string | null {
  const plain = query.trim().toLowerCase().replace(/\s+/g, ' ');
  return /[^\p{L}\p{N}\p{M}\s'’"“”.,;:!?-]/u.test(plain) ? plain : null;
}

/**
 * Cuts a stretch of about `length` signs around the first word of the text that begins with one of the words looked for,
 * and marks all such beginnings in it. Without any, the text's own beginning.
 */
export function snippetOf(text: string, query: string, length = 120): Snippet {
  const signs = [...text.replace(/\s+/g, ' ').trim()];
  const plain = folded(signs.join(''));
  const words = termsOf(query).map((word) => [...word]);
  const hitAt = (at: number) =>
    isLetter(plain[at - 1])
      ? 0
      : Math.max(
          0,
          ...words.map((word) =>
            word.every((sign, i) => plain[at + i] === sign) ? word.length : 0,
          ),
        );
  const first = plain.findIndex((_, at) => hitAt(at) > 0);
  let from = Math.max(0, first - Math.floor(length / 3));
  while (from > 0 && isLetter(plain[from - 1])) from -= 1;
  let to = Math.min(signs.length, from + length);
  while (to < signs.length && isLetter(plain[to])) to += 1;

  const pieces: Snippet = [];
  const add = (piece: string, found: boolean) => {
    const last = pieces.at(-1);
    if (last?.found === found) last.text += piece;
    else if (piece) pieces.push({ text: piece, found });
  };
  if (from > 0) add('… ', false);
  for (let at = from; at < to;) {
    const hit = hitAt(at);
    add(signs.slice(at, at + Math.max(1, hit)).join(''), hit > 0);
    at += Math.max(1, hit);
  }
  if (to < signs.length) add(' …', false);
  return pieces;
}
