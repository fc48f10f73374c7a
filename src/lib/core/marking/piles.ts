import { grouped } from '../lists/grouped';
import { formOf, isNearly, strictOf, type Answer } from './same-answer';

/** Answers to one part that are equal or nearly equal, to be marked together. */
export interface Pile<T> {
  /** The form around which it lies; of one that was taken out, with its copy. */
  key: string;
  /** The way most of them wrote it. */
  answer: string;
  answers: T[];
  /** Whether some of them are only nearly equal. */
  nearly: boolean;
}

interface Piled extends Answer {
  copy: string;
}

const compare = (a: string, b: string) => (a < b ? -1 : Number(a > b));

/** The most frequent of some texts; of equally frequent ones the first by its letters. */
function mostFrequent(texts: readonly string[]): string {
  const found = [...grouped(texts, (text) => text)];
  return (
    found.sort(([a, some], [b, others]) => others.length - some.length || compare(a, b))[0]?.[0] ??
    ''
  );
}

/**
 * Lays the answers to a part into piles, the largest first. Answers of one form lie together. Forms go in the order of how many
 * gave them, those of equally many by their letters: each joins the first pile whose form it nearly equals, or begins one. So nothing
 * joins a pile over a third answer, and the order in which answers come in does not matter. What is not answered is in none.
 * @param apart copies that lie alone, because somebody took them out of their pile
 */
export function pileUp<T extends Piled>(
  answers: readonly T[],
  apart: ReadonlySet<string> = new Set(),
): Pile<T>[] {
  const given = answers.filter(({ answer, chosen }) => answer !== '' || chosen.length > 0);
  const forms = [...grouped(given, (one) => (apart.has(one.copy) ? '' : formOf(one)))]
    .filter(([form]) => form !== '')
    .sort(([a, some], [b, others]) => others.length - some.length || compare(a, b));
  const piles: { strict: ReturnType<typeof strictOf>; answers: T[]; nearly: boolean }[] = [];
  for (const [form, some] of forms) {
    const strict = strictOf(form);
    // What is chosen or placed is equal, or it is not.
    const isText = some[0]?.kind === 'short' || some[0]?.kind === 'writing';
    const pile = isText ? piles.find((one) => isNearly(one.strict, strict)) : undefined;
    if (pile) {
      pile.answers.push(...some);
      pile.nearly = true;
    } else piles.push({ strict, answers: [...some], nearly: false });
  }
  const alone = given
    .filter(({ copy, ...answer }) => apart.has(copy) || formOf(answer) === '')
    .map((one) => ({
      key: `alone ${one.copy}`,
      answer: one.answer,
      answers: [one],
      nearly: false,
    }));
  const made = piles.map(({ strict, answers: some, nearly }) => ({
    key: strict.form,
    answer: mostFrequent(some.map(({ answer }) => answer)),
    answers: some.sort((a, b) => compare(a.copy, b.copy)),
    nearly,
  }));
  return [...made, ...alone].sort(
    (a, b) => b.answers.length - a.answers.length || compare(a.key, b.key),
  );
}
