import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { sittingsOf } from './sittings';
import { sizeOfStep, workLine } from './work-line';

const MINUTE = 60_000;
const page = schema.node('doc', null, [
  schema.node('paragraph', null, schema.text('The tide comes in.')),
  schema.node('paragraph', null, schema.text('And out.')),
]);
const sizeOf = (change: (t: Transform) => Transform) =>
  change(new Transform(page)).steps.map((step) => sizeOfStep(step.toJSON()));

describe('sittings', () => {
  const made = (minutes: number[], author = 'ada') =>
    minutes.map((at) => ({ author, at: at * MINUTE }));

  it('end at a pause of more than ten minutes', () => {
    const [first, second, ...more] = sittingsOf(made([0, 4, 14, 25, 26]));
    expect(first).toMatchObject({ author: 'ada', from: 0, to: 14 * MINUTE });
    expect(first?.steps).toHaveLength(3);
    expect(second).toMatchObject({ from: 25 * MINUTE, to: 26 * MINUTE });
    expect(more).toEqual([]);
  });

  it('are of one person each, also where two write at once', () => {
    const both = [...made([0, 2, 8]), ...made([1, 20], 'teo')].sort((a, b) => a.at - b.at);
    expect(sittingsOf(both).map(({ author, steps }) => [author, steps.length])).toEqual([
      ['ada', 3],
      ['teo', 1],
      ['teo', 1],
    ]);
  });
});

describe('what a step brought and took away', () => {
  it('is counted in characters, as a reader sees them', () => {
    expect(sizeOf((t) => t.insert(1, schema.text('Look: ')))).toEqual([{ added: 6, removed: 0 }]);
    // The words of a label on a drawing are written, too.
    const label = schema.node('label', { id: 'l', at: '1 1', text: 'end light' });
    const slice = { content: [label.toJSON()] };
    expect(sizeOfStep({ stepType: 'replace', from: 9, to: 9, slice }).added).toBe(9);
    expect(sizeOf((t) => t.delete(1, 5))).toEqual([{ added: 0, removed: 4 }]);
    expect(sizeOf((t) => t.replaceWith(1, 4, schema.text('🌊 a')))).toEqual([
      { added: 3, removed: 3 },
    ]);
    expect(sizeOf((t) => t.insert(0, page.child(1)))).toEqual([{ added: 8, removed: 0 }]);
  });

  it('is nothing where only the looks changed', () => {
    expect(sizeOf((t) => t.addMark(1, 5, schema.mark('strong')))).toEqual([
      { added: 0, removed: 0 },
    ]);
    const wrapped = sizeOf((t) => {
      const range = t.doc.resolve(1).blockRange();
      return range ? t.wrap(range, [{ type: schema.nodes.quote }]) : t;
    });
    expect(wrapped).toEqual([{ added: 0, removed: 0 }]);
  });

  it('counts strokes that were drawn, and not those that were rubbed out', () => {
    const stroke = (id: string) => ({ type: 'stroke', attrs: { id, points: '1,1,50' } });
    const [sitting] = workLine([
      {
        version: 1,
        author: 'ada',
        at: 0,
        body: {
          stepType: 'replace',
          from: 1,
          to: 1,
          slice: { content: [stroke('a'), stroke('b')] },
        },
      },
      { version: 2, author: 'ada', at: 1, body: { stepType: 'replace', from: 1, to: 2 } },
    ]);
    expect(sitting).toMatchObject({ strokes: 2, added: 0, removed: 1 });
  });

  it('is summed up sitting by sitting', () => {
    const body = (from: number, to: number, text = '') => ({
      stepType: 'replace',
      from,
      to,
      ...(text ? { slice: { content: [{ type: 'text', text }] } } : {}),
    });
    const line = workLine([
      { version: 1, author: 'ada', at: 0, body: body(1, 1, 'tide') },
      { version: 2, author: 'teo', at: 1, body: body(1, 3) },
      { version: 3, author: 'ada', at: MINUTE, body: body(1, 2, 'ebb') },
    ]);
    expect(line).toEqual([
      {
        author: 'ada',
        from: 0,
        to: MINUTE,
        first: 1,
        last: 3,
        added: 7,
        removed: 1,
        strokes: 0,
        pasted: [],
      },
      {
        author: 'teo',
        from: 1,
        to: 1,
        first: 2,
        last: 2,
        added: 0,
        removed: 2,
        strokes: 0,
        pasted: [],
      },
    ]);
  });
});
