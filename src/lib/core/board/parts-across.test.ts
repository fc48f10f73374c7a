import fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import type { LoggedJson } from '../history/work-line';
import { partsOf } from '../page/parts';
import { schema } from '../page/schema';
import { followParts, type Pace } from './part-pace';
import { standsOf } from './part-stands';
import { slowParts } from './slow-parts';

const text = (words: string) => (words ? [schema.text(words)] : []);
const page = (short: string, writing: string) =>
  schema.node('doc', null, [
    schema.node('paragraph', null, text('How high is the tide?')),
    schema.node('answer_short', { id: 'height' }, text(short)),
    schema.node('paragraph', null, text('Why?')),
    schema.node('answer_writing', { id: 'why', aim: 40 }, [
      schema.node('paragraph', null, text(writing)),
    ]),
  ]);
const SECOND = 1000;
const MINUTE = 60 * SECOND;

/** A log in the making: words typed into a part, or taken away from its end. */
class Log {
  readonly start = page('', '');
  readonly steps: LoggedJson[] = [];
  private doc = this.start;

  type(author: string, at: number, part: string, words: string): this {
    return this.change(author, at, part, (to, end) => to.insert(end, schema.text(words)));
  }
  takeAway(author: string, at: number, part: string, letters: number): this {
    return this.change(author, at, part, (to, end) => to.delete(end - letters, end));
  }
  private change(
    author: string,
    at: number,
    part: string,
    make: (to: Transform, end: number) => Transform,
  ): this {
    let end = 0;
    this.doc.descendants((node, pos) => {
      if (node.attrs.id !== part) return true;
      end = pos + node.nodeSize - (part === 'why' ? 2 : 1);
      return false;
    });
    const made = make(new Transform(this.doc), end);
    for (const step of made.steps)
      this.steps.push({
        version: this.steps.length + 1,
        author,
        at,
        body: step.toJSON() as object,
      });
    this.doc = made.doc;
    return this;
  }
}

describe('how the parts of a copy stand', () => {
  it('is blank, begun or done; with a key, right or wrong', () => {
    const parts = partsOf(page('2.6 m', 'The moon'));
    expect(standsOf(parts, {})).toEqual({ height: 'done', why: 'begun' });
    expect(standsOf(partsOf(page('', '')), {})).toEqual({ height: 'blank', why: 'blank' });
    const keys = { height: { kind: 'short' as const, accepted: ['2.6 m'] } };
    expect(standsOf(parts, keys).height).toBe('right');
    expect(standsOf(partsOf(page('3 m', '')), keys)).toEqual({ height: 'wrong', why: 'blank' });
    // What is not answered yet is not wrong.
    expect(standsOf(partsOf(page('', '')), keys).height).toBe('blank');
  });
});

describe('the pace of a copy', () => {
  it('gives the time since one’s last change to the part that is changed, but no long pause', () => {
    const log = new Log()
      .type('ada', 0, 'height', '2.6')
      .type('ada', 30 * SECOND, 'height', ' m')
      .type('ada', 2 * MINUTE, 'why', 'The moo')
      .takeAway('ada', 3 * MINUTE, 'why', 4)
      .type('ada', 60 * MINUTE, 'why', ' moon');
    expect([...followParts(log.start, log.steps, new Set(['ada'])).paces]).toEqual([
      ['height', { time: 30 * SECOND, added: 5, removed: 0 }],
      ['why', { time: 2.5 * MINUTE, added: 12, removed: 4 }],
    ]);
  });

  it('takes those who share a page each by themselves, and nobody else', () => {
    const log = new Log()
      .type('ada', 0, 'why', 'a')
      .type('ben', MINUTE, 'why', 'b')
      .type('a teacher', 2 * MINUTE, 'why', 'c')
      .type('ada', 3 * MINUTE, 'why', 'd');
    expect(followParts(log.start, log.steps, new Set(['ada', 'ben'])).paces.get('why')).toEqual({
      time: 3 * MINUTE,
      added: 3,
      removed: 0,
    });
  });

  it('never has more time than there is between the first change and the last', () => {
    const change = fc.record({
      part: fc.constantFrom('height', 'why'),
      after: fc.integer({ min: 0, max: 20 * MINUTE }),
    });
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 12 }), (changes) => {
        const log = new Log();
        let at = 0;
        for (const { part, after } of changes) log.type('ada', (at += after), part, 'x');
        const paces = [...followParts(log.start, log.steps, new Set(['ada'])).paces.values()];
        const time = paces.reduce((sum, pace) => sum + pace.time, 0);
        expect(time).toBeLessThanOrEqual(at);
        expect(paces.reduce((sum, { added }) => sum + added, 0)).toBe(changes.length);
      }),
    );
  });
});

describe('where many slow down', () => {
  const pace = (minutes: number, removed = 0): Pace => ({
    time: minutes * MINUTE,
    added: 100,
    removed,
  });
  const copies = (n: number, own: (i: number) => Record<string, Pace>) =>
    Array.from({ length: n }, (_, i) => new Map(Object.entries(own(i))));

  it('is a part that takes half of them twice as long as is usual', () => {
    const some = copies(6, (i) => ({ a: pace(3), b: pace(3 + i / 10), c: pace(8 + i) }));
    expect(slowParts(some)).toEqual([
      { part: 'c', minutes: 10.5, rewritten: null, usual: { minutes: 3.25, rewritten: 0 } },
    ]);
  });

  it('is no part that one or two alone took long over, that few worked on, or that takes seconds', () => {
    expect(
      slowParts(copies(6, (i) => ({ a: pace(3), b: pace(3), c: pace(i < 2 ? 40 : 3) }))),
    ).toEqual([]);
    expect(
      slowParts(copies(6, (i) => ({ a: pace(1), b: pace(1), ...(i < 4 ? { c: pace(9) } : {}) }))),
    ).toEqual([]);
    expect(slowParts(copies(6, () => ({ a: pace(0.1), b: pace(0.1), c: pace(0.9) })))).toEqual([]);
    expect(slowParts([])).toEqual([]);
  });

  it('is a part that half of them wrote again and again', () => {
    const [slow] = slowParts(copies(5, () => ({ a: pace(3, 5), b: pace(3, 10), c: pace(3, 60) })));
    expect(slow).toEqual({
      part: 'c',
      minutes: null,
      rewritten: 0.6,
      usual: { minutes: 3, rewritten: 0.1 },
    });
  });

  it('does not depend on the order of the copies or of their parts', () => {
    const some = fc.array(
      fc.dictionary(
        fc.constantFrom('a', 'b', 'c'),
        fc.nat(30).map((n) => pace(n, n)),
      ),
      { maxLength: 9 },
    );
    fc.assert(
      fc.property(some, (own) => {
        const maps = own.map((one) => new Map(Object.entries(one)));
        const turned = own.map((one) => new Map(Object.entries(one).reverse())).reverse();
        const byPart = (all: ReturnType<typeof slowParts>) =>
          all.sort((a, b) => a.part.localeCompare(b.part));
        expect(byPart(slowParts(turned))).toEqual(byPart(slowParts(maps)));
      }),
    );
  });
});
