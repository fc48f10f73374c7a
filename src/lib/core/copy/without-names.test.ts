import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { withoutNames } from './without-names';

const { strong } = schema.marks;
const page = (...content: Parameters<typeof schema.node>[2][]) =>
  schema.node(
    'doc',
    null,
    content.map((one) => schema.node('paragraph', null, one)),
  );
const said = (node: ReturnType<typeof page>) => node.textBetween(0, node.content.size, ' / ');

describe('a page without names', () => {
  it('has none of them left, in whatever case, and nothing else is gone', () => {
    const names = ['Ada', 'O’Brien Fennick'];
    const words = "ADA wrote this. By Ada O'Brien Fennick; Adam and Canada stay. FENNICK’s log";
    expect(said(withoutNames(page(schema.text(words)), names))).toBe(
      '… wrote this. By … …; Adam and Canada stay. …’s log',
    );
  });

  it('is so though a name is divided by marks, or is not a word of our letters', () => {
    const divided = page(
      [schema.text('A', [strong.create()]), schema.text('da, and ')],
      schema.text('Олена Шевченко'),
    );
    expect(said(withoutNames(divided, ['Ada', 'Олена']))).toBe('…, and  / … Шевченко');
  });

  it('is so in where a link leads', () => {
    const link = schema.marks.link.create({ href: 'https://pages.example/ada-fennick' });
    const now = withoutNames(page(schema.text('my page', [link])), ['Ada', 'Fennick']);
    expect(JSON.stringify(now.toJSON())).not.toMatch(/ada|fennick/i);
    expect(said(now)).toBe('my page');
  });

  it('is so in what stands beside pictures; a name of one letter, or none, changes nothing', () => {
    const file = 'f'.repeat(64);
    const doc = schema.node('doc', null, [
      schema.node('picture', { file, alt: 'Ada’s harbour' }),
      schema.node('paragraph', null, schema.text('I saw a boat.')),
    ]);
    const now = withoutNames(doc, ['Ada', 'I']);
    expect(now.firstChild?.attrs).toMatchObject({ file, alt: '…’s harbour' });
    expect(said(now)).toContain('I saw a boat.');
    expect(withoutNames(doc, [''])).toBe(doc);
  });
});
