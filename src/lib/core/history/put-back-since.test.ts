import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { authored, edits, historyOf } from '../../../../tests/support/random-history';
import { schema } from '../page/schema';
import { moveOn, type Authorship } from './authorship';
import { pagePutBackKeeping } from './put-back-since';

const { nodes } = schema;
const line = (words: string) => nodes.paragraph.create(null, words ? schema.text(words) : null);
const writing = (...lines: string[]) => nodes.answer_writing.create({ id: 'w' }, lines.map(line));
const short = (words: string) =>
  nodes.answer_short.create({ id: 's' }, words ? schema.text(words) : null);
const page = (...blocks: Node[]) => nodes.doc.create(null, blocks);
const linesIn = (node: Node): string[] => {
  const lines: string[] = [];
  node.descendants((one) => {
    if (one.isTextblock) lines.push(one.textContent);
    return !one.isTextblock;
  });
  return lines;
};
/** All of a page, written in these versions by one person. */
const written = (doc: Node, last: number): Authorship => [
  { from: 0, to: doc.content.size, author: 'priya', first: last, last },
];
const back = (now: Node, then: Node, authorship: Authorship, guarded = false) =>
  pagePutBackKeeping({ doc: now, authorship }, { doc: then, version: 5 }, guarded);

describe('a page that is put back, with what was written since', () => {
  it('has what stood, and below it what came since', () => {
    const then = page(writing('From the north', 'The slip'));
    const now = page(writing('I wrote this after'));
    expect(linesIn(back(now, then, written(now, 9)))).toEqual([
      'From the north',
      'The slip',
      'I wrote this after',
    ]);
  });

  it('has nothing twice: neither what still stands, nor what was there before', () => {
    const then = page(writing('From the north', 'The slip'));
    const now = page(writing('The slip', 'The'));
    const since = now.content.size - 6;
    const runs = written(now, 3).map((run) => ({ ...run, to: since }));
    const last = { from: since, to: now.content.size, author: 'priya', first: 9, last: 9 };
    expect(linesIn(back(now, then, [...runs, last]))).toEqual([
      'From the north',
      'The slip',
      'The',
    ]);
    expect(back(now, then, written(now, 5)).eq(then)).toBe(true);
  });

  it('keeps a few words that were answered since, and brings back those that were not', () => {
    const [then, now, none] = [page(short('3.5')), page(short('4.1')), page(short(''))];
    expect(linesIn(back(now, then, written(now, 9)))).toEqual(['4.1']);
    expect(linesIn(back(now, then, written(now, 3)))).toEqual(['3.5']);
    expect(linesIn(back(none, then, written(none, 9)))).toEqual(['3.5']);
  });

  it('has the strokes of both', () => {
    const drawing = (...ids: string[]) =>
      page(
        nodes.answer_drawing.create(
          { id: 'd' },
          ids.map((id) => nodes.stroke.create({ id, points: '1,1,50 9,9,50' })),
        ),
      );
    const both = back(drawing('b', 'c'), drawing('a', 'b'), []);
    expect(both.firstChild?.children.map(({ attrs }) => String(attrs.id))).toEqual(['a', 'b', 'c']);
  });

  it('has its own text as it is now where that is guarded', () => {
    const then = page(line('Old directions'), writing('From the north'));
    const now = page(line('New directions'), writing('after'));
    expect(linesIn(back(now, then, written(now, 9), true))).toEqual([
      'New directions',
      'From the north',
      'after',
    ]);
  });

  it('loses no line of a random history, neither of then nor of since', () => {
    fc.assert(
      fc.property(edits, fc.nat(), (made, moment) => {
        const { pages, steps } = historyOf(made);
        const version = moment % pages.length;
        const [then, now] = [pages[version] as Node, pages.at(-1) as Node];
        const authorship = moveOn([], authored(steps));
        const target = pagePutBackKeeping({ doc: now, authorship }, { doc: then, version }, false);
        target.check();
        const lines = linesIn(target);
        for (const one of linesIn(then).filter(Boolean)) expect(lines).toContain(one);
        now.descendants((block, pos) => {
          const since = authorship.some(
            ({ from, to, last }) => last > version && from < pos + block.nodeSize && to > pos,
          );
          if (block.isTextblock && since && block.type.name === 'paragraph')
            expect(lines).toContain(block.textContent);
          return !block.isTextblock;
        });
      }),
    );
  });
});
