import type { Fragment, Mark, Node } from 'prosemirror-model';
import {
  AddMarkStep,
  RemoveMarkStep,
  ReplaceAroundStep,
  ReplaceStep,
  type Step,
} from 'prosemirror-transform';
import { taken, type Offer } from './offer';
import type { ProposalWords } from './proposal';

/** Longer words are cut where they are only said. */
const MOST = 500;
const cut = (text: string) => (text.length > MOST ? `${text.slice(0, MOST)}…` : text);
/** Letters stay as they are; a line's end is a space, something that is no text a sign. */
const wordsOf = (page: Node | Fragment, from: number, to: number) =>
  cut(page.textBetween(from, to, ' ', '▫').trim());
const insertedBy = (step: ReplaceStep) => wordsOf(step.slice.content, 0, step.slice.content.size);

const MARKS: Record<string, string> = {
  strong: 'bold',
  emphasis: 'italic',
  underline: 'underlined',
  link: 'a link',
};
const sayMark = ({ type: { name } }: Mark) => MARKS[name] ?? name;

const BLOCKS: Record<string, string> = {
  bullet_list: 'bullet list',
  ordered_list: 'numbered list',
  heading: 'heading',
  quote: 'quote',
  code_lines: 'lines of code',
  paragraph: 'paragraph',
};

/** The blocks around a place, from the outermost in. */
function around(page: Node, at: number): string[] {
  const place = page.resolve(Math.min(at, page.content.size));
  return Array.from({ length: place.depth }, (_, depth) => place.node(depth + 1).type.name);
}
const listsIn = (blocks: readonly string[]) =>
  blocks.filter((name) => name === 'bullet_list' || name === 'ordered_list').length;

function describeMarks(
  page: Node,
  steps: readonly (AddMarkStep | RemoveMarkStep)[],
): ProposalWords {
  const from = Math.min(...steps.map((step) => step.from));
  const to = Math.max(...steps.map((step) => step.to));
  const names = (kind: typeof AddMarkStep | typeof RemoveMarkStep) => [
    ...new Set(steps.filter((step) => step instanceof kind).map(({ mark }) => sayMark(mark))),
  ];
  // What is both taken off and put on was there in part.
  const on = names(AddMarkStep);
  const off = names(RemoveMarkStep).filter((name) => !on.includes(name));
  const becomes = [...on, ...off.map((name) => `not ${name}`)].join(', ');
  return { kind: 'format', was: wordsOf(page, from, to), becomes };
}

function describeBlocks(
  page: Node,
  then: Node,
  steps: readonly ReplaceAroundStep[],
): ProposalWords {
  const [first] = steps;
  const from = Math.min(...steps.map(({ gapFrom }) => gapFrom));
  const to = Math.max(...steps.map(({ gapTo }) => gapTo));
  const was = wordsOf(page, Math.min(from, page.content.size), Math.min(to, page.content.size));
  // Inside the first line that stays.
  let line = from;
  page.nodesBetween(from, Math.min(to, page.content.size), (node, pos) => {
    if (line === from && node.isTextblock) line = pos + 1;
    return line === from;
  });
  const now = first?.getMap().map(line, 1) ?? line;
  const [before, after] = [around(page, line), around(then, now)];
  const deeper = listsIn(after) - listsIn(before);
  if (listsIn(before) > 0 && deeper > 0) return { kind: 'indent', was, becomes: '' };
  if (listsIn(after) > 0 && deeper < 0) return { kind: 'outdent', was, becomes: '' };
  const list = after.findLast((name) => name.endsWith('_list') || name === 'quote');
  const name = deeper > 0 || after.length > before.length ? list : after.at(-1);
  return { kind: 'block', was, becomes: BLOCKS[name ?? ''] ?? 'another block' };
}

const isReplace = (step: Step) => step instanceof ReplaceStep;

/** What an offer says. @param page that it stands on */
export function describe(page: Node, offer: Offer): ProposalWords {
  const { steps } = offer;
  const marks = steps.filter(
    (step) => step instanceof AddMarkStep || step instanceof RemoveMarkStep,
  );
  if (marks.length === steps.length) return describeMarks(page, marks);
  const blocks = steps.filter((step) => step instanceof ReplaceAroundStep);
  const then = taken(page, offer);
  if (blocks.length > 0 && then) return describeBlocks(page, then, blocks);
  const out = offer.takesOut.map(({ from, to }) => wordsOf(page, from, to)).filter(Boolean);
  const put = steps
    .filter(isReplace)
    .map((step) => insertedBy(step))
    .filter(Boolean);
  const [was, becomes] = [out.join(' … '), put.join(' … ')];
  if (out.length === 1 && was === becomes && steps.length > 1)
    return { kind: 'move', was, becomes: '' };
  if (was && becomes) return { kind: 'replace', was, becomes };
  if (becomes) return { kind: 'insert', was, becomes };
  if (was) return { kind: 'delete', was, becomes };
  const grows = then
    ? then.childCount - page.childCount || then.content.size - page.content.size
    : 0;
  const kind = grows > 0 ? 'divide' : grows < 0 ? 'join' : 'change';
  return {
    kind,
    was: offer.beside.map(({ from, to }) => wordsOf(page, from, to)).join(' | '),
    becomes,
  };
}
