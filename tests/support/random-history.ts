import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { findWrapping, Step, Transform } from 'prosemirror-transform';
import { withPassage } from '../../src/lib/core/history/compare';
import { applyStep } from '../../src/lib/core/history/moment';
import { pagePutBack, stepBetween } from '../../src/lib/core/history/put-back';
import { bringUpToDate, type LoggedStep } from '../../src/lib/core/history/rebase';
import { schema } from '../../src/lib/core/page/schema';

const { nodes } = schema;
const text = (words: string) => schema.text(words);
const option = (id: string) => nodes.choice.create({ id }, text(id));

/** A page with words, with options to choose, and with a place to draw, on which pieces are moved. */
export const start = nodes.doc.create(null, [
  nodes.paragraph.create(null, text('The tide turns, and turns again.')),
  nodes.paragraph.create(null, text('So do we.')),
  nodes.answer_choice.create({ id: 'way' }, [option('up'), option('down')]),
  nodes.answer_drawing.create({ id: 'chart' }, [
    nodes.spot.create({ id: 'spot', at: '10 10' }),
    nodes.piece.create({ id: 'mole', text: 'mole' }),
  ]),
]);

interface Edit {
  kind: number;
  at: number;
  to: number;
  words: string;
  /** So many of the last steps its author has not heard of: they were away. */
  behind: number;
}
const share = fc.double({ min: 0, max: 1, noNaN: true });
export const edits = fc.array(
  fc.record({
    kind: fc.nat(12),
    at: share,
    to: share,
    words: fc.constantFrom('a', 'turns', ' and ', '🌊', 'The tide turns'),
    behind: fc.oneof(fc.constant(0), fc.nat(6)),
  }),
  { maxLength: 30 },
);

/** The places where one of these stands. */
function placesOf(page: Node, ...types: string[]): number[] {
  const places: number[] = [];
  page.descendants((node, pos) => void (types.includes(node.type.name) && places.push(pos)));
  return places;
}
const pick = <T>(all: readonly T[], share: number): T | undefined =>
  all[Math.floor(share * (all.length - 1))];

/** Choosing, drawing, labelling, moving, erasing. */
function answer(page: Transform, { kind, at, to, words }: Edit, unique: string) {
  const [drawing] = placesOf(page.doc, 'answer_drawing');
  const node = drawing === undefined ? null : page.doc.nodeAt(drawing);
  const end = (drawing ?? 0) + 1 + (node?.content.size ?? 0);
  const chosen = pick(placesOf(page.doc, 'choice'), at);
  const piece = pick(placesOf(page.doc, 'piece'), at);
  const drawn = pick(placesOf(page.doc, 'stroke', 'label'), at);
  const [x, y] = [Math.floor(at * 1000), Math.floor(to * 600)];
  if (kind === 7 && chosen !== undefined) page.setNodeAttribute(chosen, 'chosen', to > 0.5);
  if (kind === 8 && node)
    page.insert(end, nodes.stroke.create({ id: unique, points: `${x},${y},50 9,9,50` }));
  if (kind === 9 && node)
    page.insert(end, nodes.label.create({ id: unique, at: `${x} ${y}`, text: words }));
  if (kind === 10 && piece !== undefined)
    page.setNodeAttribute(piece, 'place', to > 0.5 ? '@spot' : `${x} ${y}`);
  if (kind === 11 && drawn !== undefined) page.delete(drawn, drawn + 1);
}

/** Typing, deleting over blocks, splitting, marking, listing, doubling: whatever an editor does to a page. */
export function write(page: Transform, { kind, at, to, words }: Edit) {
  const places: number[] = [];
  page.doc.descendants((node, pos) => {
    if (node.type.isInGroup('answer')) return false;
    if (node.isTextblock) for (let i = 0; i <= node.content.size; i++) places.push(pos + 1 + i);
    return true;
  });
  const [a = 1, b = 1] = [at, to].map((share) => pick(places, share) ?? 1).sort((x, y) => x - y);
  if (kind <= 1) page.insert(a, text(words));
  else if (kind === 2) page.delete(a, b);
  else if (kind === 3) page.split(a);
  else if (kind === 4) page.addMark(a, b, schema.mark('strong'));
  else if (kind === 5) {
    const range = page.doc.resolve(a).blockRange(page.doc.resolve(b));
    const list = range && findWrapping(range, nodes.bullet_list);
    if (list) page.wrap(range, list);
  } else page.insert(0, page.doc.child(0));
}

/** Who wrote in turn. */
const AUTHORS = ['ada', 'ben', 'ada', 'cy'];

/**
 * The pages of a history, by version, and its steps: by several authors who were away now and then, with pages and passages
 * put back.
 */
export function historyOf(made: readonly Edit[]) {
  const pages: Node[] = [start];
  const log: (LoggedStep & { author: string })[] = [];
  made.forEach((edit, turn) => {
    const newest = pages.at(-1) ?? start;
    const isPutBack = edit.kind === 12;
    const from = Math.max(0, log.length - (isPutBack ? 0 : edit.behind));
    const base = pages[from] ?? start;
    const page = new Transform(base);
    if (isPutBack) {
      const then = pick(pages, edit.at) ?? start;
      const passage = { from: 0, to: 1 + Math.floor(edit.to * then.content.size) };
      const wanted =
        edit.behind > 3
          ? withPassage(newest, then, passage)
          : pagePutBack(newest, then, { guarded: edit.behind > 1, passage: null });
      const step = stepBetween(newest, wanted);
      if (step) page.step(step);
    } else if (edit.kind >= 7) answer(page, edit, `made-${turn}`);
    else write(page, edit);
    const client = AUTHORS[turn % AUTHORS.length] ?? '';
    const mine = page.steps.map((step, index) => ({ no: turn * 100 + index, step }));
    for (const one of bringUpToDate(base, mine, log.slice(from), `${client} ${turn}`).fresh) {
      log.push({ ...one, client: `${client} ${turn}`, author: client });
      pages.push(applyStep(one.step, pages.at(-1) ?? start));
    }
  });
  const steps = log.map(({ step, author }, index) => ({
    version: index + 1,
    author,
    at: index,
    body: step.toJSON() as object,
  }));
  return { pages, steps };
}

export const authored = (steps: ReturnType<typeof historyOf>['steps']) =>
  steps.map(({ version, author, body }) => ({
    version,
    author,
    step: Step.fromJSON(schema, body),
  }));
