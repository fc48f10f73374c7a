import { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { MOST_INK } from '../../src/lib/core/page/limits';
import { schema } from '../../src/lib/core/page/schema';
import { useApp } from '../support/app';
import { assign, makeSchool, type TestSchool } from '../support/school';

const test = useApp();
const { nodes } = schema;
let school: TestSchool;
let copy = '';

const spot = (id: string, at: string) => nodes.spot.create({ id, at });
const piece = (id: string) => nodes.piece.create({ id, text: id });
const stroke = (id: string, more: object = {}) =>
  nodes.stroke.create({ id, points: '1,1,50 9,9,50', ...more });
const drawing = () =>
  nodes.doc.create(null, [
    nodes.paragraph.create(null, schema.text('Where is what?')),
    nodes.answer_drawing.create({ id: 'd' }, [
      spot('s1', '100 100'),
      spot('s2', '300 100'),
      piece('mole'),
      piece('light'),
      stroke('given', { given: true }),
    ]),
  ]);
/** Where the drawing is in the page, and its first piece and the end of it. */
const [AT, MOLE, END] = [16, 19, 22];

beforeEach(async () => {
  school = await makeSchool(test.app, 3);
  const { copies } = await assign(test.app, school, { page: drawing() });
  copy = copies[0] ?? '';
});

let clients = 0;
async function send(
  change: (page: Transform) => unknown,
  by = 0,
  as: 'owner' | 'teacher' = 'owner',
) {
  const { doc, version } = await test.app.pages.open(copy);
  const page = new Transform(doc);
  change(page);
  const id = as === 'teacher' ? school.teacher : (school.students[by] ?? '');
  return test.app.pages.append(
    copy,
    { id, owner: as === 'owner' },
    {
      base: version,
      client: `client-no-${++clients}`,
      first: 1,
      lost: [],
      steps: page.steps.map((step) => step.toJSON()),
    },
  );
}
const now = async () => (await test.app.pages.open(copy)).doc.nodeAt(AT) ?? nodes.doc.create();

const doneMask = async () =>
  (
    await test.app.db
      .selectFrom('page')
      .select('done_mask')
      .where('id', '=', copy)
      .executeTakeFirstOrThrow()
  ).done_mask;

describe('a drawing that was handed out', () => {
  it('takes strokes, labels and moved pieces of its student, each a step with its author', async () => {
    await send((page) => page.setNodeAttribute(MOLE, 'place', '@s2'));
    await send((page) => page.insert(END, stroke('mine')));
    await send((page) =>
      page.insert(END + 1, nodes.label.create({ id: 'l', at: '5 5', text: 'sea' })),
    );
    const held = await test.app.pages.open(copy);
    expect(held.version).toBe(3);
    expect((await now()).childCount).toBe(7);
    const wrote = held.authorship().map(({ from, to, author }) => [from, to, author]);
    // The moved piece, and what was drawn; what it was handed out with is nobody's.
    const [student] = school.students;
    expect(wrote).toEqual([
      [MOLE, MOLE + 1, student],
      [END, END + 2, student],
    ]);
    expect(await doneMask()).toBe('0');
    await send((page) => page.setNodeAttribute(MOLE + 1, 'place', '@s1'));
    expect(await doneMask()).toBe('1');
  });

  it.each<[string, (page: Transform) => unknown]>([
    ['moves a place', (page) => page.setNodeAttribute(AT + 1, 'at', '5 5')],
    ['renames a piece', (page) => page.setNodeAttribute(MOLE, 'text', 'pier')],
    ['takes a piece away', (page) => page.delete(MOLE, MOLE + 1)],
    ['adds a piece', (page) => page.insert(MOLE, piece('more'))],
    ['erases what was given', (page) => page.delete(END - 1, END)],
    ['gives what nobody gave', (page) => page.insert(END, stroke('mine', { given: true }))],
    ['changes the picture', (page) => page.setNodeAttribute(AT, 'file', 'a'.repeat(64))],
  ])('refuses a request by hand that %s', async (_, change) => {
    const before = await now();
    await expect(send(change)).rejects.toThrow(/own text is guarded/);
    expect((await now()).eq(before)).toBe(true);
    await send(change, 0, 'teacher');
  });

  it.each([
    ['points that are none', { points: '1,1,50 <script>' }],
    ['an ink that is none', { ink: 'url(javascript:0)' }],
    ['a pen that is none', { width: 4.5 }],
  ])('refuses %s', async (_, attrs) => {
    const step = new Transform(drawing()).insert(END, stroke('mine')).steps[0]?.toJSON();
    Object.assign(step.slice.content[0].attrs, attrs);
    const message = { base: 0, client: 'client-by-hand', first: 1, lost: [], steps: [step] };
    const by = { id: school.students[0] ?? '', owner: true };
    await expect(test.app.pages.append(copy, by, message)).rejects.toThrow(/change/);
  });

  it('takes no more ink than a page holds, and what is there stays', async () => {
    const points = Array.from({ length: 5000 }, (_, n) => `${n % 900},${n % 600},50`).join(' ');
    const strokes = Math.floor(MOST_INK / points.length);
    await send((page) => {
      for (let n = 0; n < strokes; n++) page.insert(END, stroke(`s${n}`, { points }));
    });
    await expect(send((page) => page.insert(END, stroke('last', { points })))).rejects.toThrow(
      /more ink/,
    );
    await send((page) => page.delete(END, END + 1));
    await send((page) => page.insert(END, stroke('last', { points })));
  });

  it('keeps all of twenty strokes that arrive at once, and of two moves of one piece the last', async () => {
    const { version } = await test.app.pages.open(copy);
    const step = (n: number) => new Transform(drawing()).insert(END, stroke(`s${n}`)).steps;
    const by = { id: school.students[0] ?? '', owner: true };
    const append = (client: string, steps: readonly { toJSON: () => unknown }[]) =>
      test.app.pages.append(copy, by, {
        base: version,
        client,
        first: 1,
        lost: [],
        steps: steps.map((one) => Object(one.toJSON())),
      });
    await Promise.all(Array.from({ length: 20 }, (_, n) => append(`client-of-${n + 10}`, step(n))));
    expect((await now()).childCount).toBe(5 + 20);
    const move = (place: string) =>
      new Transform(drawing()).setNodeAttribute(MOLE, 'place', place).steps;
    await Promise.all([
      append('client-moves', move('@s1')),
      append('client-moves-too', move('9 9')),
    ]);
    expect(['@s1', '9 9']).toContain((await now()).child(2).attrs.place);
    expect(Node.fromJSON(schema, (await now()).toJSON()).eq(await now())).toBe(true);
  });
});
