import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { findWrapping, Step, Transform } from 'prosemirror-transform';
import { applyStep } from '../../src/lib/core/history/moment';
import { schema } from '../../src/lib/core/page/schema';

const { nodes } = schema;
const text = (words: string) => schema.text(words);
export const start = nodes.doc.create(null, [
  nodes.paragraph.create(null, text('The tide turns, and turns again.')),
  nodes.paragraph.create(null, text('So do we.')),
]);

interface Edit {
  kind: number;
  at: number;
  to: number;
  words: string;
}
export const edits = fc.array(
  fc.record({
    kind: fc.nat(6),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    to: fc.double({ min: 0, max: 1, noNaN: true }),
    words: fc.constantFrom('a', 'turns', ' and ', '🌊', 'The tide turns'),
  }),
  { maxLength: 30 },
);

/** Typing, deleting over blocks, splitting, marking, listing, doubling: whatever an editor does to a page. */
function edit(page: Transform, { kind, at, to, words }: Edit) {
  const places: number[] = [];
  page.doc.descendants((node, pos) => {
    if (node.isTextblock) for (let i = 0; i <= node.content.size; i++) places.push(pos + 1 + i);
  });
  const [a = 1, b = 1] = [at, to]
    .map((share) => places[Math.floor(share * (places.length - 1))] ?? 1)
    .sort((x, y) => x - y);
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

/** The pages of a history, by version, and its steps. */
export function historyOf(made: readonly Edit[]) {
  const all = new Transform(start);
  const pages: Node[] = [start];
  for (const one of made) edit(all, one);
  let page = start;
  for (const step of all.steps) pages.push((page = applyStep(step, page)));
  const steps = all.steps.map((step, i) => ({
    version: i + 1,
    author: AUTHORS[i % AUTHORS.length] ?? '',
    at: i,
    body: step.toJSON() as object,
  }));
  return { pages, steps };
}

/** Who wrote in turn. */
const AUTHORS = ['ada', 'ben', 'ada', 'cy'];
export const authored = (steps: ReturnType<typeof historyOf>['steps']) =>
  steps.map(({ version, author, body }) => ({
    version,
    author,
    step: Step.fromJSON(schema, body),
  }));
