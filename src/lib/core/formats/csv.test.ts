import fc from 'fast-check';
import { stringify } from 'csv-stringify/sync';
import { describe, expect, it } from 'vitest';
import { readCsv } from './csv';

const fieldsOf = (text: string) => {
  const read = readCsv(text);
  return 'rows' in read ? read.rows.map(({ fields }) => fields) : read.fault;
};

describe('a file of delimited text', () => {
  it('is read as RFC 4180 has it (section 2: line ends, quotes, line breaks and commas within)', () => {
    expect(fieldsOf('aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n')).toEqual([
      ['aaa', 'bbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ]);
    expect(fieldsOf('"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx')).toEqual([
      ['aaa', 'b\r\nbb', 'ccc'],
      ['zzz', 'yyy', 'xxx'],
    ]);
    expect(fieldsOf('"aaa","b""bb","c,cc"')).toEqual([['aaa', 'b"bb', 'c,cc']]);
  });

  it.each([',', ';', '\t', '|'])('finds out that %j stands between its fields', (delimiter) => {
    const rows = [
      ['family', 'given', 'group'],
      ['Ekholm', 'Viggo; or so, they say', '8C'],
      ['Ilves', 'Kaisa', '8C'],
    ];
    expect(fieldsOf(`\ufeff${stringify(rows, { delimiter })}`)).toEqual(rows);
  });

  it('says on which line each row begins', () => {
    for (const end of ['\n', '\r\n', '\r']) {
      const file = ['a,b', '', '"x', 'y",2', '3,4', '"q', 'q', 'q",5', '6,7', ''].join(end);
      const read = readCsv(file);
      expect('rows' in read && read.rows.map(({ line }) => line)).toEqual([1, 3, 5, 6, 9]);
    }
  });

  it('says where it breaks', () => {
    expect(fieldsOf('a,b\n1,"2\n3,4\n')).toMatch(/quotation mark/);
  });

  it('reads back whatever a standard writer wrote', () => {
    const field = fc.string({ unit: 'grapheme', maxLength: 12 }).map((text) => text.trim());
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 5 }).chain((width) =>
          fc.array(fc.array(field, { minLength: width, maxLength: width }), {
            minLength: 1,
            maxLength: 8,
          }),
        ),
        (rows) => {
          const head = rows[0]?.map((_, i) => `column${i}`) ?? [];
          const filled = [head, ...rows].filter((row) => row.some((cell) => cell !== ''));
          const text = stringify(filled, { quoted: true });
          expect(fieldsOf(text)).toEqual(filled);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('never throws, whatever it is given', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
        const read = readCsv(text);
        expect('rows' in read || read.fault.length > 20).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});
