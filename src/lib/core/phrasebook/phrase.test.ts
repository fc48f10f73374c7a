import { describe, expect, it } from 'vitest';
import { readCsv } from '../formats/csv';
import { fillBlanks, findPhrases, phrasesIn, type Phrase } from './phrase';

const phrase = (text: string, used = 0): Phrase => ({ id: text, text, used });
const texts = (some: readonly Phrase[]) => some.map(({ text }) => text);

describe('a phrase', () => {
  it('has its blanks filled in, and keeps what is none', () => {
    const blanks = { name: 'Ada', work: 'Rule of twelfths', words: '' };
    expect(fillBlanks('{name}, look at {Work} again: {words} {fog} {', blanks)).toBe(
      'Ada, look at Rule of twelfths again: {words} {fog} {',
    );
    // A name that looks like a blank is none.
    expect(fillBlanks('{name}!', { ...blanks, name: '{work}' })).toBe('{work}!');
  });

  const some = [
    phrase('Which unit do you mean?', 9),
    phrase('Show the steps of your sum.', 2),
    phrase('Say why, in a sentence.', 5),
    phrase('Show your units.', 7),
  ];

  it('is found by what is typed, misspelt, too; of equal fits the most used comes first', () => {
    expect(texts(findPhrases(some, ''))).toEqual([
      'Which unit do you mean?',
      'Show your units.',
      'Say why, in a sentence.',
      'Show the steps of your sum.',
    ]);
    expect(texts(findPhrases(some, 'unit')).slice(0, 2)).toEqual([
      'Which unit do you mean?',
      'Show your units.',
    ]);
    expect(texts(findPhrases(some, 'senntence'))).toEqual(['Say why, in a sentence.']);
    expect(texts(findPhrases(some, 'stpes of'))[0]).toBe('Show the steps of your sum.');
    expect(findPhrases(some, 'quadrilateral')).toEqual([]);
    expect(findPhrases(some, 'show', 1)).toHaveLength(1);
  });

  it('comes from a table with or without a heading; each line that is none is named', () => {
    const read = (text: string) => {
      const csv = readCsv(text);
      return 'fault' in csv ? csv.fault : phrasesIn(csv.rows);
    };
    expect(read('course;phrase\nTides;Show your units.\nTides;"Why, ""exactly""?"\n')).toEqual({
      texts: ['Show your units.', 'Why, "exactly"?'],
      passed: [],
    });
    expect(read(`One.\nOne.\n${'x'.repeat(2001)}\n'=1+1 is no sum\n`)).toEqual({
      texts: ['One.', '=1+1 is no sum'],
      passed: ['line 2 is there twice', 'line 3 is longer than 2000 characters'],
    });
  });
});
