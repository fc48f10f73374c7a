import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codesFromCase, codesFromCsv } from './code-list';

const shown = (read: ReturnType<typeof codesFromCsv>) =>
  'fault' in read ? read.fault : read.codes.map(({ code, parent }) => `${code} < ${parent ?? '-'}`);

describe('curriculum codes', () => {
  it('are read from delimited text, parents first, and what cannot stand is named', () => {
    const read = codesFromCsv(
      'Coast',
      'Code;Description;Parent\nG2.1;Reads a chart;G2\nG2;The coast;\nG2.1;Twice;\n;No code;\nG9;Alone;G7\n',
    );
    expect(shown(read)).toEqual(['G2 < -', 'G2.1 < 0', 'G9 < -']);
    expect('passed' in read && read.passed).toEqual([
      'line 4, whose code G2.1 stands there already',
      'line 5, which has no code',
      'what “G9” stands under, which the file does not have',
    ]);
    expect(shown(codesFromCsv('x', 'a,b\n1,2\n'))).toMatch(/“code”.*“statement”/);
    expect(shown(codesFromCsv('x', 'code,statement\n'))).toMatch(/no codes/);
  });

  /** Names of objects and fields as in the 1EdTech CASE 1.0 JSON binding (CFPackage); values are invented. */
  it('may each stand under the one before', () => {
    const lines = Array.from({ length: 9_999 }, (_, n) => `C${n},S,C${n - 1}`);
    const read = codesFromCsv('Deep', `code,statement,parent\n${lines.join('\n')}`);
    expect('codes' in read && read.codes.map(({ parent }) => parent)).toEqual([
      null,
      ...lines.slice(1).map((_, n) => n),
    ]);
  });

  it('are read from a CASE package, children in their sequence', () => {
    const link = (identifier: string) => ({ identifier, title: '', uri: '' });
    const child = (of: string, id: string, sequenceNumber: number) => ({
      identifier: `a-${id}`,
      associationType: 'isChildOf',
      sequenceNumber,
      originNodeURI: link(id),
      destinationNodeURI: link(of),
    });
    const read = codesFromCase(
      JSON.stringify({
        CFDocument: { identifier: 'd', title: 'Geography' },
        CFItems: [
          { identifier: 'c', fullStatement: 'Third', humanCodingScheme: 'G.2' },
          { identifier: 'b', fullStatement: 'Second', humanCodingScheme: 'G.1' },
          { identifier: 'a', fullStatement: 'First', humanCodingScheme: null },
        ],
        CFAssociations: [child('d', 'a', 1), child('a', 'c', 2), child('a', 'b', 1)],
      }),
    );
    expect('title' in read && read.title).toBe('Geography');
    expect(shown(read)).toEqual([' < -', 'G.1 < 0', 'G.2 < 0']);
    expect('passed' in read && read.passed).toEqual(['a code of 1 item that has none']);
    expect(shown(codesFromCase('{'))).toMatch(/not JSON/);
    expect(shown(codesFromCase('{"CFDocument":{}}'))).toMatch(/not a CASE package: CFItems/);
  });

  it('are each there once, under a parent that stands before, whatever the file', () => {
    const item = fc.record({
      code: fc.constantFrom('a', 'b', 'c', 'd', ''),
      parent: fc.constantFrom('a', 'b', 'c', ''),
    });
    fc.assert(
      fc.property(fc.array(item, { maxLength: 8 }), (items) => {
        const text = [
          'code,statement,parent',
          ...items.map(({ code, parent }) => `${code},says,${parent}`),
        ].join('\n');
        const read = codesFromCsv('x', text);
        if ('fault' in read) return;
        expect(new Set(read.codes.map(({ code }) => code)).size).toBe(read.codes.length);
        for (const [index, { parent }] of read.codes.entries())
          expect(parent ?? -1).toBeLessThan(index);
      }),
    );
  });

  it('are codes in order or one sentence, whatever a CASE file holds', () => {
    const id = fc.constantFrom('a', 'b', 'c', 'd');
    const item = fc.record(
      {
        identifier: fc.oneof(id, fc.integer()),
        fullStatement: fc.oneof(fc.string({ maxLength: 20 }), fc.constant(null)),
        humanCodingScheme: fc.option(fc.constantFrom('G', 'G.1', '')),
      },
      { requiredKeys: [] },
    );
    // Circles, children of nothing and of themselves come about by chance.
    const association = fc.record({
      associationType: fc.constantFrom('isChildOf', 'isRelatedTo'),
      sequenceNumber: fc.option(fc.integer()),
      originNodeURI: fc.record({ identifier: id }),
      destinationNodeURI: fc.record({ identifier: id }),
    });
    const file = fc.record({
      CFDocument: fc.constant({ identifier: 'd', title: 'Geography' }),
      CFItems: fc.array(item, { maxLength: 6 }),
      CFAssociations: fc.array(association, { maxLength: 8 }),
    });
    const text = fc.oneof(
      file.map((value) => JSON.stringify(value)),
      fc.json(),
      fc.string(),
    );
    fc.assert(
      fc.property(text, (given) => {
        const read = codesFromCase(given);
        if ('fault' in read) expect(read.fault).toMatch(/\p{L}+ .*\.$/u);
        else
          for (const [index, { parent }] of read.codes.entries())
            expect(parent ?? -1).toBeLessThan(index);
      }),
    );
  });
});
