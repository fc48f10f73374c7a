import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FileNames } from './file-names';

const one = (title: string, ending = '') => new FileNames().give(title, ending);

describe('names of files', () => {
  it.each([
    ['Tide: “high” / low?', 'Tide “high” low.html'],
    ['  ..hidden.. ', 'hidden.html'],
    ['50% of it', '50 of it.html'],
    ['', 'Untitled.html'],
    ['???', 'Untitled.html'],
    ['CON', 'CON_.html'],
    ['aux.old', 'aux.old_.html'],
    ['a\u0000b\nc', 'a b c.html'],
    // A decomposed accent is composed (NFC, Unicode Standard Annex 15).
    ['Cafe\u0301', 'Caf\u00e9.html'],
    // What would turn the rest of the name round is left out (Unicode TR 36, section 3).
    ['ebaf\u202Efdp.exe', 'ebaf fdp.exe.html'],
    ['Größe & Änderung', 'Größe & Änderung.html'],
  ])('“%s” is %s', (title, name) => {
    expect(one(title, '.html')).toBe(name);
  });

  it('are each given once in a folder, without regard to case and accents', () => {
    const names = new FileNames();
    expect(['Tide', 'tide', 'TIDE', 'Tïde'].map((title) => names.give(title, '.html'))).toEqual([
      'Tide.html',
      'tide (2).html',
      'TIDE (3).html',
      'Tïde (4).html',
    ]);
  });

  it('cut no sign in two', () => {
    const family = '👩‍👩‍👧‍👦';
    const name = one(family.repeat(20), '.html');
    expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(120);
    expect(name.replaceAll(family, '')).toBe('.html');
  });

  it('are taken by every system, whatever the titles are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.string({ unit: 'binary' }), fc.string({ maxLength: 400 })), {
          maxLength: 30,
        }),
        (titles) => {
          const names = new FileNames();
          const given = titles.map((title) => names.give(title, '.html'));
          for (const name of given) {
            expect(name).not.toMatch(/[\\/:*?"<>|\p{Cc}]/u);
            expect(name).toBe(name.normalize('NFC'));
            expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(120);
            expect(name).not.toMatch(/^\.|[. ]\.html$/);
          }
          expect(new Set(given.map((name) => name.toLowerCase())).size).toBe(titles.length);
        },
      ),
    );
  });
});
