import { JSDOM } from 'jsdom';
import { DOMSerializer, Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { archivedHtml } from './copy-html';
import { indexHtml } from './index-html';
import { pageHtml } from './page-html';

const text = (words: string, ...marks: object[]) => ({ type: 'text', text: words, marks });
const paragraph = (...content: object[]) => ({ type: 'paragraph', content });
const page = (...content: object[]) => Node.fromJSON(schema, { type: 'doc', content });
const FILE = 'ab'.repeat(32);

const written = page(
  { type: 'heading', attrs: { level: 2 }, content: [text('Lights & <marks>')] },
  paragraph(
    text('bold', { type: 'strong' }),
    text(' both', { type: 'emphasis' }, { type: 'strong' }),
    text(' out', { type: 'link', attrs: { href: 'https://example.org/?a=1&b="2"' } }),
    { type: 'line_break' },
    text('x', { type: 'subscript' }),
  ),
  { type: 'bullet_list', content: [{ type: 'list_item', content: [paragraph(text('one'))] }] },
  {
    type: 'ordered_list',
    attrs: { order: 3 },
    content: [{ type: 'list_item', content: [paragraph(text('three'))] }],
  },
  { type: 'quote', content: [paragraph(text('said'))] },
  { type: 'rule' },
  {
    type: 'table',
    content: [
      {
        type: 'table_row',
        content: [
          { type: 'table_header', attrs: { colspan: 2 }, content: [paragraph(text('wide'))] },
        ],
      },
      {
        type: 'table_row',
        content: ['a', 'b'].map((word) => ({
          type: 'table_cell',
          content: [paragraph(text(word))],
        })),
      },
    ],
  },
);

/** What a browser makes of HTML, written out again: attributes and tags as it understands them. */
const asRead = (html: string) => new JSDOM(`<body>${html}</body>`).window.document.body;

describe('a page as HTML', () => {
  it('is what prosemirror-model’s own serializer draws, of all that is drawn by the schema', () => {
    const { document } = new JSDOM('').window;
    const box = document.createElement('div');
    box.append(DOMSerializer.fromSchema(schema).serializeFragment(written.content, { document }));
    const ours = asRead(pageHtml(written, () => ''));
    expect(ours.innerHTML).toBe(box.innerHTML);
  });

  it('shows what was chosen and answered, and leaves nothing to run', () => {
    const choice = (several: boolean) => ({
      type: 'answer_choice',
      attrs: { id: several ? 's' : 'o', several },
      content: [true, false].map((chosen) => ({
        type: 'choice',
        attrs: { id: `${chosen}`, chosen },
        content: [text(chosen ? 'yes' : 'no')],
      })),
    });
    const html = pageHtml(
      page(
        choice(true),
        choice(false),
        { type: 'answer_number', attrs: { id: 'n', unit: '<m>' }, content: [text('4.2')] },
        { type: 'answer_short', attrs: { id: 't' }, content: [text('<script>alert(1)</script>')] },
        { type: 'picture', attrs: { file: FILE, alt: '" onerror="alert(1)' } },
      ),
      (hash) => `pictures/${hash}.png`,
    );
    const body = asRead(html);
    expect(body.textContent?.replace(/\s+/g, ' ').trim()).toBe(
      '☑ yes☐ no◉ yes○ no4.2 <m><script>alert(1)</script>',
    );
    expect(body.querySelector('script, [onerror]')).toBeNull();
    expect(body.querySelector('img')?.getAttribute('src')).toBe(`pictures/${FILE}.png`);
    expect(body.querySelector('img')?.alt).toBe('" onerror="alert(1)');
  });

  it('has its formulas as MathML, and one that is none as it was typed', () => {
    const formula = (tex: string) => paragraph({ type: 'formula', attrs: { tex } });
    const html = pageHtml(page(formula('\\frac{1}{2}'), formula('\\frac{')), () => '');
    const body = asRead(html);
    expect(body.querySelector('math mfrac')).not.toBeNull();
    expect(body.textContent).toContain('\\frac{');
    expect(html).not.toMatch(/katex-html|@font-face|<link/);
    const large = asRead(pageHtml(page(formula('\\rule{500em}{500em}')), () => ''));
    expect(large.querySelector('math mspace')?.getAttribute('width')).toBe('20em');
  });
});

describe('a copy in an archive', () => {
  const rubric = {
    id: crypto.randomUUID(),
    title: 'Reading a chart',
    version: 1,
    table: {
      levels: [0, 4],
      criteria: [{ id: 'c', title: 'Signs', descriptors: ['names none', 'names <all>'] }],
    },
  };
  const html = archivedHtml(
    {
      title: 'Chart: symbols',
      about: ['Isla Abernathy', '8C Coast & Chart'],
      instructions: 'From the paper chart,\nnot from memory.',
      page: page(paragraph(text('now'))),
      most: '10',
      scores: [
        {
          at: Date.parse('2026-10-20T11:00:00Z'),
          by: 'Ms Orrey',
          points: '7.5',
          back: false,
          scoring: {
            rubric,
            criteria: [{ id: 'c', points: '2', words: 'Nearly <all>' }],
            overruled: { points: '7.5', reason: 'as agreed' },
          },
        },
      ],
      proposals: [
        {
          kind: 'replace',
          was: 'go <up>',
          becomes: 'goes',
          by: 'Ms Orrey',
          at: 0,
          became: { state: 'taken', by: 'Ada', at: 60_000 },
        },
      ],
      threads: [
        {
          quote: 'wreck',
          on: '',
          stamp: FILE,
          comments: [
            { by: 'Ms Orrey', at: 0, text: 'Which one? $x<2$', kind: 'said', file: 'picture 1' },
          ],
        },
      ],
      apart: [{ at: 0, by: 'Ms Lindqvist', points: '6', scoring: null, back: null }],
      fromStudents: [
        {
          at: 0,
          by: 'Jan <Pellworm>',
          withheld: true,
          scoring: {
            rubric,
            criteria: [{ id: 'c', points: '4', words: 'All there.' }],
            overruled: null,
          },
        },
      ],
      record: [{ at: 0, says: 'handed in' }],
      attached: [
        { path: 'students/Abernathy, Isla/50% #1.pdf', name: '50% #1.pdf', url: null, away: false },
      ],
      earlier: [{ says: 'handed in', at: 0, page: page(paragraph(text('then'))) }],
    },
    'Europe/Dublin',
    { pictureAt: (hash) => `../pictures/${hash}.png`, fileAt: (id) => `${id}.png` },
  );

  it('says all that belongs to it', () => {
    const said = new JSDOM(html).window.document.body.textContent?.replace(/\s+/g, ' ') ?? '';
    for (const words of [
      'Isla Abernathy · 8C Coast & Chart',
      'From the paper chart,not from memory.',
      '7½ of 10 points Ms Orrey, Tue 20 Oct 2026, 12:00, kept back',
      'Reading a chart, 2 of 4',
      'names none / names <all>Nearly <all>',
      '7½ points count instead: as agreed',
      'on “wreck”Which one? x<2x<2 picture 1.png Ms Orrey',
      'Attached50% #1.pdf',
      'Given by each of two6 of 10 points Ms Lindqvist, Thu 1 Jan 1970, 01:00',
      'Scored by studentsJan <Pellworm> Thu 1 Jan 1970, 01:00, withheldReading a chart, 4 of 4Signs4names <all>All there.',
      'handed in, Thu 1 Jan 1970, 01:00then',
    ])
      expect(said).toContain(words);
    // But for the name of MathML, which leads nowhere.
    const names = 'http://www.w3.org/1998/Math/MathML';
    expect(html.replaceAll(names, '')).not.toMatch(/<script|https?:\/\//);
    // It lies beside the page.
    expect(html).toContain('href="50%25%20%231.pdf"');
    expect(html).toContain('href="picture%201.png"');
    expect(html).toContain(`src="../pictures/${FILE}.png"`);
  });

  it('is found from the first page, whatever its name is', () => {
    const index = indexHtml({
      title: '8C',
      about: [],
      assignments: ['Chart & more'],
      students: [
        {
          name: 'Abernathy, Isla',
          copies: [
            [{ says: 'handed back', path: 'students/Abernathy, Isla/50% “really” #1.html' }],
          ],
          own: [],
        },
      ],
      others: [{ title: 'Empty', files: [] }],
    });
    const { document } = new JSDOM(index, { url: 'file:///bag/data/index.html' }).window;
    const [a] = document.querySelectorAll('a');
    expect(decodeURIComponent(new URL(a?.href ?? '').pathname)).toBe(
      '/bag/data/students/Abernathy, Isla/50% “really” #1.html',
    );
    expect(document.body.textContent).not.toContain('Empty');
  });
});
