import fc from 'fast-check';
import { JSDOM } from 'jsdom';
import { DOMParser, type Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { cleanPasted, pastedPictures } from './pasted-html';

const FILE = 'a'.repeat(64);
const PICTURE = 'data:image/png;base64,iVBORw0KGgo=';

function paste(html: string, files = new Map<string, string>()): Node {
  const { document } = new JSDOM(html).window;
  cleanPasted(document.body, files);
  const page = DOMParser.fromSchema(schema).parse(document.body);
  page.check();
  return page;
}
const outline = (node: Node): string =>
  node.isText
    ? JSON.stringify(node.text)
    : node.isLeaf
      ? node.type.name
      : `${node.type.name}(${node.content.content.map(outline).join(',')})`;

/** As a word processor puts it on the clipboard: lists are paragraphs with drawn bullets. */
const worksheet = `
<html xmlns:o="urn:word-processor"><head><style>p{color:red}</style></head><body>
<p class=MsoTitle>The tide<o:p></o:p></p>
<h2 style='color:#111'>What you need</h2>
<p class=MsoListParagraphCxSpFirst style='text-indent:-18pt;mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·<span>&nbsp;&nbsp;</span></span>a pencil</p>
<p class=MsoListParagraphCxSpMiddle style='mso-list:l0 level2 lfo1'><span style='mso-list:Ignore'>o<span>&nbsp;</span></span>a sharp one</p>
<p class=MsoListParagraphCxSpLast style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·</span>a ruler</p>
<p><o:p>&nbsp;</o:p></p>
<p style='mso-list:l1 level1 lfo2'><span style='mso-list:Ignore'>1.</span>Look.</p>
<table border=1><tr><td><p><b>hour</b></p></td><td><p>1<sup>st</sup></p></td></tr><tr><td><p>height</p></td><td><p>&nbsp;</p></td></tr></table>
<p><img src="${PICTURE}" alt="the quay"><img src="file:///C:/tmp/clip001.png"></p>
<p>See <a href="https://harbour.example/tides">the tables</a> or <a href="javascript:alert(1)">this</a>.</p>
<script>window.broken = true</script><iframe src="https://elsewhere.example"></iframe>
</body></html>`;

describe('a worksheet pasted from a word processor', () => {
  const page = paste(worksheet, new Map([[PICTURE, FILE]]));

  it('becomes a clean page of our schema', () => {
    const text = (words: string) => `paragraph("${words}")`;
    expect(outline(page)).toBe(
      'doc(' +
        [
          'heading("The tide")',
          'heading("What you need")',
          `bullet_list(list_item(${text('a pencil')},bullet_list(list_item(${text('a sharp one')}))),list_item(${text('a ruler')}))`,
          `ordered_list(list_item(${text('Look.')}))`,
          `table(table_row(table_cell(${text('hour')}),table_cell(paragraph("1","st"))),table_row(table_cell(${text('height')}),table_cell(paragraph())))`,
          'picture',
          'paragraph("See ","the tables"," or this.")',
        ].join(',') +
        ')',
    );
  });

  it('keeps bold, raised letters, links to the web and the picture', () => {
    const json = JSON.stringify(page.toJSON());
    expect(json).toContain('"marks":[{"type":"strong"}]');
    expect(json).toContain('superscript');
    expect(json).toContain('https://harbour.example/tides');
    expect(json).toContain(FILE);
  });

  it('keeps nothing active', () => {
    expect(JSON.stringify(page.toJSON())).not.toMatch(
      /javascript|<script|window|iframe|elsewhere|file:/i,
    );
  });

  it('knows which pictures come along and how many stay behind', () => {
    const { document } = new JSDOM(worksheet).window;
    expect(pastedPictures(document.body)).toEqual({ carried: [PICTURE], elsewhere: 1 });
  });
});

describe('any pasted HTML', () => {
  const { window } = new JSDOM('');

  it('becomes a valid page without active content', () => {
    const tag = fc.constantFrom(
      'p',
      'div',
      'ul',
      'ol',
      'li',
      'table',
      'tr',
      'td',
      'h1',
      'h5',
      'b',
      'a',
      'img',
      'script',
      'svg',
      'o:p',
      'blockquote',
      'span',
    );
    const attribute = fc.constantFrom(
      '',
      ' href="javascript:x()"',
      ' onclick="x()"',
      ' src="https://x.example/p.png"',
      ` style="mso-list:l0 level3 lfo1"`,
      ' data-answer="short" data-id="part"',
      ' class="MsoTitle"',
    );
    const html = fc.letrec<{ node: string }>((tie) => ({
      node: fc.oneof(
        { maxDepth: 5 },
        fc.string({ maxLength: 8 }),
        fc
          .tuple(tag, attribute, fc.array(tie('node'), { maxLength: 4 }))
          .map(([t, a, inner]) => `<${t}${a}>${inner.join('')}</${t}>`),
      ),
    })).node;
    fc.assert(
      fc.property(fc.array(html, { maxLength: 5 }), (parts) => {
        const document = new window.DOMParser().parseFromString(parts.join(''), 'text/html');
        cleanPasted(document.body, new Map());
        const page = DOMParser.fromSchema(schema).parse(document.body);
        page.check();
        const links: unknown[] = [];
        page.descendants((node) => {
          for (const mark of node.marks) if (mark.type.name === 'link') links.push(mark.attrs.href);
        });
        expect(links.every((href) => /^(https?:|mailto:)/.test(String(href)))).toBe(true);
      }),
      { numRuns: 200 },
    );
  });
});
