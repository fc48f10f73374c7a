import { Fragment, type Node } from 'prosemirror-model';
import { isAnswer } from '../page/schema';
import type { Authorship } from './authorship';
import { pagePutBack } from './put-back';

interface Now {
  doc: Node;
  authorship: Authorship;
}
interface Then {
  doc: Node;
  version: number;
}

/**
 * The page that putting back `then` leads to where nothing that was written since is to be lost: whole blocks that somebody
 * wrote in since come below what came back, in the same place for an answer; what a place for a few words or for a choice holds
 * since stays; a drawing has the strokes of both.
 */
export function pagePutBackKeeping(now: Now, then: Then, guarded: boolean): Node {
  const back = pagePutBack(now.doc, then.doc, { guarded, passage: null });
  const isSince = (from: number, to: number) =>
    now.authorship.some((run) => run.last > then.version && run.from < to && run.to > from);
  const answers = answersOf(now.doc);
  const known = new Set(answersOf(back).keys());
  const merged = withSince(back, (answer) => {
    const own = answers.get(String(answer.attrs.id));
    return own?.node.type === answer.type ? bothIn(answer, own, isSince) : answer;
  });
  const blocks = sinceIn(
    { node: now.doc, inside: 0 },
    back,
    isSince,
    (block) => !holdsAnswer(block),
  );
  const strange = [...answers].flatMap(([id, { node }]) => (known.has(id) ? [] : [node]));
  return merged.copy(merged.content.append(Fragment.from([...blocks, ...strange])));
}

type IsSince = (from: number, to: number) => boolean;
/** A node with the place where its content begins. */
interface Placed {
  node: Node;
  inside: number;
}

function answersOf(page: Node): Map<string, Placed> {
  const answers = new Map<string, Placed>();
  page.descendants((node, pos) => {
    if (isAnswer(node)) answers.set(String(node.attrs.id), { node, inside: pos + 1 });
    return !isAnswer(node);
  });
  return answers;
}

function holdsAnswer(block: Node): boolean {
  let holds = isAnswer(block);
  block.descendants((node) => {
    holds ||= isAnswer(node);
    return !holds;
  });
  return holds;
}

function withSince(node: Node, change: (answer: Node) => Node): Node {
  if (isAnswer(node)) return change(node);
  if (node.isLeaf || node.isTextblock) return node;
  return node.copy(Fragment.from(node.children.map((child) => withSince(child, change))));
}

/** The blocks of a node that were written in since, without those that stand among `others` as they are. */
function sinceIn(
  { node, inside }: Placed,
  others: Node,
  isSince: IsSince,
  wanted: (block: Node) => boolean = () => true,
): Node[] {
  const blocks: Node[] = [];
  node.forEach((block, offset) => {
    const at = inside + offset;
    const stands = others.children.some((one) => one.eq(block));
    if (wanted(block) && !stands && isSince(at, at + block.nodeSize)) blocks.push(block);
  });
  return blocks;
}

function bothIn(back: Node, own: Placed, isSince: IsSince): Node {
  const { node, inside } = own;
  const isNewer = node.content.size > 0 && isSince(inside, inside + node.content.size);
  switch (node.type.name) {
    case 'answer_writing':
      return back.copy(back.content.append(Fragment.from(sinceIn(own, back, isSince))));
    case 'answer_drawing': {
      const has = new Set(back.children.map(({ attrs }) => String(attrs.id)));
      const drawn = node.children.filter(
        ({ type, attrs }) =>
          (type.name === 'stroke' || type.name === 'label') && !has.has(String(attrs.id)),
      );
      return back.copy(back.content.append(Fragment.from(drawn)));
    }
    case 'answer_choice':
      return isNewer && node.children.some(({ attrs }) => attrs.chosen) ? node : back;
    default:
      return isNewer ? back.copy(node.content) : back;
  }
}
