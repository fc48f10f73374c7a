import { distance } from 'fastest-levenshtein';
import { readNumber, type Part } from '../page/parts';

/** What somebody answered to a part. */
export type Answer = Pick<Part, 'kind' | 'answer' | 'chosen'>;

const NUMBER_WORDS = new Map(
  'zero one two three four five six seven eight nine ten eleven twelve'
    .split(' ')
    .map((word, number) => [word, String(number)]),
);
const ARTICLES = new Set(['a', 'an', 'the']);
const NEGATIONS = new Set(['no', 'not', 'never', 'nor', 'none', 'cannot', 'without']);
/** What is longer is not one of a few answers that many give: only equal ones lie together. */
const LONGEST = 200;
/** So many letters of an answer may differ by one. */
const LETTERS_FOR_ONE = 8;
const MOST_APART = 6;

/** Numbers with their sign and decimals, words with the apostrophes in them, and the signs of calculation. */
const TOKEN = /[-−+]?\d+(?:[.,]\d+)*|[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*|[+*/=<>^%°×÷±√]/gu;

/**
 * The form of an answer: two answers of the same form say the same, letter for letter or nearly. Letters without regard to
 * case, numbers up to twelve as digits, without articles, punctuation and doubled spaces; a number by its value with its unit; of a choice
 * or a drawing what was chosen or placed.
 */
export function formOf({ kind, answer, chosen }: Answer): string {
  if (kind === 'choice' || (kind === 'drawing' && chosen.length > 0))
    return [...chosen].sort().join(' ');
  const plain = answer.normalize('NFKC').toLocaleLowerCase('en').replaceAll('’', "'");
  if (kind === 'number') {
    const number = readNumber(answer);
    if (number) return `${Number(number.digits)} ${number.unit.toLocaleLowerCase('en')}`.trim();
  }
  const tokens = plain.match(TOKEN) ?? [];
  const words = tokens
    .map((token) => NUMBER_WORDS.get(token) ?? token.replace(',', '.').replace('−', '-'))
    .filter((token) => !ARTICLES.has(token));
  // An answer of signs alone, or of an article, is what it is.
  return words.length > 0 ? words.join(' ') : plain.trim().replace(/\s+/g, ' ');
}

const numbersIn = (form: string) =>
  (form.match(/[-+]?\d+(?:\.\d+)*|[+*/=<>^%°×÷±√]/g) ?? []).join(' ');
const negationsIn = (form: string) =>
  form.split(' ').filter((word) => NEGATIONS.has(word) || word.endsWith("n't")).length;

/** What must be the same in two forms that are nearly equal. */
interface Strict {
  form: string;
  numbers: string;
  negations: number;
}
export const strictOf = (form: string): Strict => ({
  form,
  numbers: numbersIn(form),
  negations: negationsIn(form),
});

/**
 * Whether two forms are nearly equal: the same numbers and signs, as often denied, and of every eight letters of the longer one at most
 * one other, six in all.
 */
export function isNearly(one: Strict, other: Strict): boolean {
  const longer = Math.max(one.form.length, other.form.length);
  const apart = Math.min(MOST_APART, Math.floor(longer / LETTERS_FOR_ONE));
  if (longer > LONGEST || apart === 0) return false;
  if (Math.abs(one.form.length - other.form.length) > apart) return false;
  if (one.numbers !== other.numbers || one.negations !== other.negations) return false;
  return distance(one.form, other.form) <= apart;
}
