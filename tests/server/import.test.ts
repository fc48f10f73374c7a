import {
  DeletedTextRun,
  Document,
  Header,
  HeadingLevel,
  ImageRun,
  InsertedTextRun,
  Math as DocxMath,
  MathFraction,
  MathRadical,
  MathRun,
  MathSuperScript,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
} from 'docx';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readZip } from '../../src/lib/server/file/zip';
import { readDocument } from '../../src/lib/server/import/read-document';
import { readTable, writeCsv, writeXlsx } from '../../src/lib/server/import/tables';
import { Refusal } from '../../src/lib/server/page/refusal';
import { zip } from '../support/zip';

const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const NAME = 'a'.repeat(64);

const read = (name: string, bytes: Buffer | string, pictures: [string, string][] = []) =>
  readDocument({ name, bytes: Buffer.from(bytes) }, new Map(pictures), async () => NAME);

/** The names of the blocks of a page, with the text of each. */
async function outline(...document: Parameters<typeof read>) {
  const { page, title, left } = await read(...document);
  const blocks: string[] = [];
  page.forEach((block) => blocks.push(`${block.type.name}: ${block.textContent}`));
  return { title, left, blocks };
}

describe('a document from a word processor', () => {
  it('in .docx becomes a page: headings, lists, tables, pictures, marks', async () => {
    const bytes = await Packer.toBuffer(
      new Document({
        sections: [
          {
            children: [
              new Paragraph({ text: 'The neap tide', heading: HeadingLevel.HEADING_1 }),
              new Paragraph({
                children: [new TextRun('Small '), new TextRun({ text: 'range', bold: true })],
              }),
              new Paragraph({ text: 'first', bullet: { level: 0 } }),
              new Paragraph({ text: 'second', bullet: { level: 0 } }),
              new Table({
                rows: [
                  new TableRow({
                    children: [
                      new TableCell({ children: [new Paragraph('hour')] }),
                      new TableCell({ children: [new Paragraph('height')] }),
                    ],
                  }),
                ],
              }),
              new Paragraph({
                children: [
                  new ImageRun({
                    type: 'png',
                    data: PIXEL,
                    transformation: { width: 9, height: 9 },
                  }),
                ],
              }),
            ],
          },
        ],
      }),
    );
    expect(await outline('neap_tide.docx', bytes)).toEqual({
      title: 'The neap tide',
      left: [],
      blocks: [
        'heading: The neap tide',
        'paragraph: Small range',
        'bullet_list: firstsecond',
        'table: hourheight',
        'picture: ',
      ],
    });
  });

  /** Elements as ECMA-376-1, Office Open XML, names them. */
  it('in .docx says what of it does not come along: linked pictures, changes, comments, formulas, headers', async () => {
    const document = new Document({
      sections: [
        {
          headers: { default: new Header({ children: [new Paragraph('Page head')] }) },
          children: [
            new Paragraph({
              children: [
                new TextRun('Kept '),
                new InsertedTextRun({
                  text: 'new',
                  id: 1,
                  author: 'A',
                  date: '2026-01-01T00:00:00Z',
                }),
                new DeletedTextRun({
                  text: 'old',
                  id: 2,
                  author: 'A',
                  date: '2026-01-01T00:00:00Z',
                }),
                new DocxMath({ children: [new MathRun('x')] }),
                new DocxMath({ children: [new MathRun('ODD')] }),
              ],
            }),
            new Paragraph({
              children: [
                new ImageRun({ type: 'png', data: PIXEL, transformation: { width: 9, height: 9 } }),
              ],
            }),
          ],
        },
      ],
    });
    const files = Object.fromEntries(await readZip(await Packer.toBuffer(document), () => true));
    const body = 'word/document.xml';
    const xml =
      files[body]
        ?.toString()
        .replace(/r:embed="/, 'r:link="')
        // An element that no version of the standard has.
        .replace('<m:r><m:t>ODD</m:t></m:r>', '<m:odd><m:r><m:t>odd</m:t></m:r></m:odd>') ?? '';
    const bytes = await zip({ ...files, [body]: xml });
    const { left, blocks } = await outline('Tracked.docx', bytes);
    expect(left.slice(0, 4)).toEqual([
      'a picture that is only linked',
      '2 tracked changes, taken as they would be accepted',
      'a formula of the word processor',
      'what stands above or below every page',
    ]);
    expect(blocks[0]).toBe('paragraph: Kept newxodd');
  });

  it('in .docx brings its formulas along', async () => {
    const children = [
      new MathFraction({
        numerator: [new MathRun('a<b & c')],
        denominator: [new MathRadical({ children: [new MathRun('2')] })],
      }),
      new MathSuperScript({ children: [new MathRun('x')], superScript: [new MathRun('2')] }),
    ];
    const document = new Document({
      sections: [
        {
          children: [
            new Paragraph({ children: [new TextRun('Say '), new DocxMath({ children })] }),
            new Paragraph('and go on.'),
          ],
        },
      ],
    });
    const read = await readDocument(
      { name: 'f.docx', bytes: await Packer.toBuffer(document) },
      new Map(),
      () => Promise.reject(new Error('no picture')),
    );
    expect(read.left).toEqual([]);
    const found: string[] = [];
    read.page.descendants(
      (node) => void (node.type.name === 'formula' && found.push(node.attrs.tex)),
    );
    expect(found).toEqual(['\\frac{a<b \\& c}{\\sqrt{2}}{x}^{2}']);
    expect(read.page.child(0).textContent.startsWith('Say ')).toBe(true);
  });

  /** Elements and attributes as OASIS OpenDocument 1.3, part 3, names them. */
  it('in .odt becomes a page, and what has no place on it is named', async () => {
    const content = `<?xml version="1.0"?><office:document-content xmlns:office="o" xmlns:text="t" xmlns:table="tb"
      xmlns:draw="d" xmlns:xlink="x" xmlns:style="s" xmlns:fo="f"><office:automatic-styles>
      <style:style style:name="T1"><style:text-properties fo:font-weight="bold"/></style:style>
      <text:list-style style:name="L1"><text:list-level-style-number/></text:list-style></office:automatic-styles>
      <office:body><office:text><text:h text:outline-level="2">Springs</text:h>
      <text:p>The <text:span text:style-name="T1">large</text:span> range &amp; why<text:note><text:note-citation>1</text:note-citation><text:note-body><text:p>See the almanac</text:p></text:note-body></text:note></text:p>
      <text:list text:style-name="L1"><text:list-item><text:p>one</text:p></text:list-item></text:list>
      <table:table><table:table-row><table:table-cell><text:p>a</text:p></table:table-cell><table:table-cell><text:p>b</text:p></table:table-cell></table:table-row></table:table>
      <text:p><draw:frame><draw:image xlink:href="Pictures/1.png"/></draw:frame><draw:frame><draw:object/></draw:frame></text:p>
      </office:text></office:body></office:document-content>`;
    const bytes = await zip({ 'content.xml': content, 'Pictures/1.png': PIXEL });
    expect(await outline('Springs.odt', bytes)).toEqual({
      title: 'Springs',
      left: ['a footnote, now in brackets', 'an embedded object'],
      blocks: [
        'heading: Springs',
        'paragraph: The large range & why (See the almanac)',
        'ordered_list: one',
        'table: ab',
        'picture: ',
      ],
    });
  });

  it('in Markdown becomes a page with the pictures that came beside it', async () => {
    const text =
      '# Lights\n\nA *fixed* light.\n\n- one\n- two\n\n![quay](img/quay.png)\n\n![lost](gone.png)\n\n<script>x</script>\n';
    expect(await outline('lights.md', text, [['quay.png', NAME]])).toEqual({
      title: 'Lights',
      left: ['a picture that did not come along'],
      blocks: [
        'heading: Lights',
        'paragraph: A fixed light.',
        'bullet_list: onetwo',
        'picture: ',
        'paragraph: <script>x</script>',
      ],
    });
  });

  it('in HTML cannot run a script or reach outside, and says what stayed behind', async () => {
    const html = `<title>x</title><h1>Storm</h1><script>document.title='ran'</script>
      <p onclick="run()">Look <a href="javascript:run()">here</a> and <a href="https://example.org/">there</a></p>
      <img src="https://example.org/p.png"><iframe src="https://example.org"></iframe><video src="v.mp4"></video>`;
    const { page, left } = await read('storm.html', html);
    const json = JSON.stringify(page.toJSON());
    expect(json).not.toMatch(/javascript|onclick|iframe|p\.png/);
    expect(json).toContain('https://example.org/');
    expect(left).toEqual([
      'a script',
      'an embedded page',
      'a film',
      'a picture that did not come along',
      'a link that leads nowhere from here',
    ]);
  });

  it('that is none is refused with a sentence', async () => {
    for (const name of ['a.docx', 'a.odt', 'a.pdf', 'a'])
      await expect(read(name, 'no document')).rejects.toBeInstanceOf(Refusal);
    await expect(read('a.odt', await zip({ 'content.xml': '<a><b>' }))).rejects.toBeInstanceOf(
      Refusal,
    );
    const bomb = '<!DOCTYPE a [<!ENTITY x "xxxxxxxxxx"><!ENTITY y "&x;&x;&x;">]><a>&y;</a>';
    await expect(read('a.odt', await zip({ 'content.xml': bomb }))).rejects.toBeInstanceOf(Refusal);
  });

  it('becomes a valid page or a sentence, whatever it holds', async () => {
    const pieces = fc.array(
      fc.constantFrom(
        ...[
          '<p>',
          '</p>',
          '<table>',
          '<tr>',
          '<td colspan=3>',
          '<ul>',
          '<li>',
          'text',
          '<b>',
          '</b>',
          '<h2>',
        ],
        ...[
          '<img src=x>',
          '<script>',
          '</script>',
          '<a href="javascript:1">',
          '<svg><path/></svg>',
          '&lt;',
          '<br>',
        ],
        ...[
          '<div data-answer="short" data-id="q">',
          '<span data-tex="\\\\frac">',
          '<td>',
          '</table>',
          '<math>',
        ],
      ),
      { maxLength: 25 },
    );
    await fc.assert(
      fc.asyncProperty(pieces, async (some) => {
        const { page } = await read('fuzz.html', some.join(''));
        page.check();
        expect(JSON.stringify(page.toJSON())).not.toMatch(/javascript:/);
      }),
      { numRuns: 60 },
    );
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom('x.docx', 'x.odt', 'x.md'),
        fc.uint8Array({ maxLength: 300 }),
        async (name, bytes) => {
          await read(name, Buffer.from(bytes)).then(
            ({ page }) => page.check(),
            (error) => expect(error).toBeInstanceOf(Refusal),
          );
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('an archive', () => {
  it('that climbs out of itself, grows without bound or is damaged is refused', async () => {
    const good = await zip({ 'inside.txt': 'abcdefghij' });
    const climbing = Buffer.from(good);
    for (let at = climbing.indexOf('inside.txt'); at >= 0; at = climbing.indexOf('inside.txt'))
      climbing.write('../../etcx', at, 'latin1');
    await expect(readZip(climbing)).rejects.toThrow(/outside/);
    const bomb = await zip({ 'zeros.csv': Buffer.alloc(120_000_000) });
    expect(bomb.length).toBeLessThan(1_000_000);
    await expect(readZip(bomb)).rejects.toThrow(/100 MB/);
    await expect(readZip(good.subarray(0, 40))).rejects.toThrow(/damaged/);
    expect((await readZip(good)).get('inside.txt')?.toString()).toBe('abcdefghij');
  });
});

describe('a table', () => {
  const rows = [
    ['', '5', '3'],
    ['Truth', 'all, “really”', '=SUM(A1)'],
  ];

  it('is read as it was written, .csv and .xlsx, and no cell acts as a formula', async () => {
    const csv = writeCsv(rows);
    expect(csv).toContain("'=SUM(A1)");
    expect(await readTable('r.csv', Buffer.from(csv))).toEqual(rows);
    expect(await readTable('r.xlsx', await writeXlsx('A: rubric?', rows))).toEqual(rows);
    await expect(readTable('r.xlsx', Buffer.from('no'))).rejects.toBeInstanceOf(Refusal);
  });

  it('is the same there and back with every sign in it that a table can trip over', async () => {
    const odd = [
      ['', '5', '0'],
      ['Line\nbreak', 'one\rtwo\r\nthree', '"said"'],
      ['-5', "'-5", '-5,5'],
      ["'=A1", "''=A1", '@home'],
      ['007', '4.50', '1e3'],
      ['semi;colon; and; more', 'a\tb', 'pipe|pipe'],
    ];
    // RFC 4180, 2.6: fields that contain line breaks are enclosed in double quotes.
    expect(writeCsv(odd)).toContain('"Line\nbreak","one\rtwo\r\nthree"');
    expect(await readTable('r.csv', Buffer.from(writeCsv(odd)))).toEqual(odd);
    const unix = odd.map((row) => row.map((cell) => cell.replace(/\r\n?/g, '\n')));
    expect(await readTable('r.xlsx', await writeXlsx('Odd', unix))).toEqual(unix);
  });

  it('is read in the encodings that spreadsheets write', async () => {
    const wanted = [
      ['Name', 'Größe'],
      ['Ekhøj', 'ça'],
    ];
    const text = 'Name;Größe\r\nEkhøj;ça\r\n';
    for (const bytes of [
      Buffer.from(`\ufeff${text}`, 'utf8'),
      Buffer.from(`\ufeff${text}`, 'utf16le'),
      Buffer.from(text, 'latin1'),
    ])
      expect(await readTable('t.csv', bytes)).toEqual(wanted);
  });

  it('is rows of text or a sentence, however an .xlsx file is damaged', async () => {
    const cell = fc.oneof(fc.string({ maxLength: 8 }), fc.constantFrom('=1+1', '12', ''));
    const table = fc.array(fc.array(cell, { maxLength: 4 }), { minLength: 1, maxLength: 4 });
    // A byte changed anywhere, in the archive's own tables as well as in what it holds.
    const damage = fc.array(fc.tuple(fc.nat(), fc.nat(255)), { maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(table, damage, fc.nat(), async (rows, changes, cut) => {
        const bytes = await writeXlsx('Table', rows);
        for (const [at, value] of changes) bytes[at % bytes.length] = value;
        const some = changes.length > 3 ? bytes.subarray(0, cut % bytes.length) : bytes;
        try {
          const read = await readTable('x.xlsx', some);
          expect(read.flat().every((text) => typeof text === 'string')).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(Refusal);
          expect((error as Refusal).message).toMatch(/\p{L}+ .*\.$/u);
        }
      }),
      { numRuns: 200 },
    );
  });
});
