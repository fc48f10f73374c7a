import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { snippetOf, termsOf } from './snippet';

const shown = (text: string, query: string, length?: number) =>
  snippetOf(text, query, length)
    .map((piece) => (piece.found ? `[${piece.text}]` : piece.text))
    .join('');

describe('the words around a hit', () => {
  it('mark what was looked for, in spite of case and accents', () => {
    expect(shown('Der Größte liegt am Kai', 'grosste')).toBe('Der Größte liegt am Kai');
    expect(shown('Every Éclair counts', 'eclair')).toBe('Every [Éclair] counts');
    expect(shown('The tide rises; tides fall', 'TIDE')).toBe('The [tide] rises; [tide]s fall');
  });

  it('begin and end between words', () => {
    const text = `${'before '.repeat(40)}lighthouse ${'after '.repeat(40)}`;
    expect(shown(text, 'light', 40)).toMatch(/^… before .*\[light\]house.* after …$/);
  });

  it('are the beginning where nothing is found', () => {
    expect(shown('Words of the shore', 'sea')).toBe('Words of the shore');
    expect(shown('', 'sea')).toBe('');
  });

  it('are a stretch of the text, and every mark begins a word', () => {
    const text = fc
      .array(fc.constantFrom('tide', 'Tïde', 'the', 'ti', '—', 'de', '12'), { maxLength: 60 })
      .map((words) => words.join(' '));
    fc.assert(
      fc.property(text, fc.constantFrom('ti', 'de the', '12', '*'), (some, query) => {
        const pieces = snippetOf(some, query, 40);
        const plain = pieces
          .map((piece) => piece.text)
          .join('')
          .replace(/^… | …$/g, '');
        expect(some.includes(plain)).toBe(true);
        for (const piece of pieces)
          if (piece.found)
            expect(termsOf(query)).toContain(
              piece.text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase(),
            );
      }),
    );
  });
});
