import Fuse from 'fuse.js';
import type { CsvRow } from '../formats/csv';
import { withoutGuard } from '../formats/formula-guard';

/** A comment that is written again and again. */
export interface Phrase {
  id: string;
  text: string;
  /** How often its reader has used it. */
  used: number;
}

/** What stands for a blank of a phrase where it is used. */
export interface Blanks {
  /** The student's first name. */
  name: string;
  /** The title of the assignment. */
  work: string;
  /** The words that the comment is on. */
  words: string;
}
export const BLANKS: readonly (keyof Blanks)[] = ['name', 'work', 'words'];

/** A phrase with its blanks filled in: "{name}, look again". What is not known, or is no blank, stays as it is. */
export const fillBlanks = (text: string, blanks: Blanks): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => {
    const known = BLANKS.find((one) => one === name.toLowerCase());
    return (known && blanks[known]) || whole;
  });

/** Nearer than this, two fits are as good as each other, and the one that is used more comes first. */
const ALIKE = 0.1;

/**
 * The phrases that somebody may mean by what they typed, misspelt, too: the best fits first, and of those the most used. Of
 * nothing typed, the most used.
 */
export function findPhrases<P extends Phrase>(phrases: readonly P[], typed: string, most = 5): P[] {
  const words = typed.trim();
  const byUse = (a: P, b: P) => b.used - a.used || a.text.localeCompare(b.text);
  if (words === '') return [...phrases].sort(byUse).slice(0, most);
  const found = new Fuse(phrases, {
    keys: ['text'],
    includeScore: true,
    ignoreLocation: true,
    ignoreDiacritics: true,
    threshold: 0.4,
  }).search(words);
  const fit = (score = 1) => Math.floor(score / ALIKE);
  return found
    .sort((a, b) => fit(a.score) - fit(b.score) || byUse(a.item, b.item))
    .slice(0, most)
    .map(({ item }) => item);
}

/** Letters of a phrase. */
export const LONGEST = 2000;

/**
 * Phrases in a table: in the column called "phrase" or "comment", else in the first.
 * @returns them, each once, and a sentence for each line that is none
 */
export function phrasesIn(rows: readonly CsvRow[]): { texts: string[]; passed: string[] } {
  const [first] = rows;
  const column = first?.fields.findIndex((field) => /^(phrase|comment)s?$/i.test(field)) ?? -1;
  const texts = new Set<string>();
  const passed: string[] = [];
  for (const { line, fields } of column < 0 ? rows : rows.slice(1)) {
    const text = withoutGuard(fields[Math.max(0, column)] ?? '').trim();
    if (text === '') passed.push(`line ${line} has no words`);
    else if (text.length > LONGEST)
      passed.push(`line ${line} is longer than ${LONGEST} characters`);
    else if (texts.has(text)) passed.push(`line ${line} is there twice`);
    else texts.add(text);
  }
  return { texts: [...texts], passed };
}
