import { describe, expect, it } from 'vitest';
import { ORIGINALS } from '../../../../demo/originals';
import { countWords, doneMask, partsDone, partsOf, readNumber } from './parts';
import { schema } from './schema';

const { nodes } = schema;
const paragraph = (text: string) => nodes.paragraph.create(null, text ? schema.text(text) : null);
const doc = (...blocks: Parameters<typeof nodes.doc.create>[1][]) =>
  nodes.doc.create(null, blocks.flat().filter((one) => one instanceof Object) as never);

describe('parts of a page', () => {
  it('are numbered in reading order and named by what asks for them', () => {
    const twelfths = ORIGINALS.find(({ key }) => key === 'twelfths');
    const parts = partsOf(twelfths?.page ?? doc());
    expect(parts.map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(parts[4]?.label).toBe('height, m · 5');
    expect(parts[6]?.label).toBe('Say in your own words why the tide does not rise at one speed.');
    expect(doneMask(parts)).toBe('00000000');
  });

  it('in a table with merged cells are named by the heads they stand under', () => {
    const { table, table_row, table_cell, table_header, answer_number } = nodes;
    const head = (text: string, attrs = {}) => table_header.create(attrs, paragraph(text));
    const place = (id: string) => table_cell.create(null, answer_number.create({ id }));
    const page = doc(
      table.create(null, [
        table_row.create(null, [head('tide'), head('water', { colspan: 2 })]),
        table_row.create(null, [head('spring', { rowspan: 2 }), place('a'), place('b')]),
        table_row.create(null, [place('c'), place('d')]),
      ]),
    );
    expect(partsOf(page).map(({ label }) => label)).toEqual(Array(4).fill('spring · water'));
  });

  it('are done when answered, a long writing at three quarters of its aim', () => {
    const writing = (words: number) =>
      nodes.answer_writing.create({ id: 'w', aim: 40 }, paragraph('word '.repeat(words)));
    expect(partsOf(doc(writing(29)))[0]).toMatchObject({
      done: false,
      detail: '29 of about 40 words',
    });
    expect(partsOf(doc(writing(30)))[0]?.done).toBe(true);
    const number = (text: string) =>
      nodes.answer_number.create({ id: 'n', unit: 'm' }, schema.text(text));
    expect(partsOf(doc(number('2,6')))[0]).toMatchObject({ done: true, detail: '2,6 m' });
    expect(partsOf(doc(number('deep')))[0]?.done).toBe(false);
    expect(partsDone('101')).toEqual({ done: 2, asked: 3 });
  });

  it.each([
    ['2.6', '2.6', ''],
    ['2,6 m', '2.6', 'm'],
    ['−1.5', '-1.5', ''],
    ['1 200 kg', '1200', 'kg'],
    ['.5', '.5', ''],
  ])('reads the number %s', (text, digits, unit) => {
    expect(readNumber(text)).toEqual({ digits, unit });
  });

  it.each(['', 'deep', 'm 2', '-'])('reads no number in “%s”', (text) => {
    expect(readNumber(text)).toBeNull();
  });

  it('counts words as a reader does', () => {
    expect(countWords('It’s 1.9 m, north-east of the “light” — don’t you think?')).toBe(10);
    expect(countWords('')).toBe(0);
  });
});
