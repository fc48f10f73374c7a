import { Mark, type Node } from 'prosemirror-model';
import { isAnswer } from './schema';

/** What a drawing was handed out with. */
const givenOn = (drawing: Node): Node[] =>
  drawing.children.filter(
    ({ type: { name }, attrs }) => name === 'spot' || name === 'piece' || attrs.given,
  );

const sameAttrs = (a: Node, b: Node, free?: string): boolean =>
  Object.keys(a.attrs).every((name) => name === free || a.attrs[name] === b.attrs[name]);

function holdsAnswer(node: Node): boolean {
  let found = false;
  node.descendants((child) => void (found ||= isAnswer(child)));
  return found;
}

/** What of a node is an answer itself. */
const FREE: Record<string, string | undefined> = { choice: 'chosen', piece: 'place' };

/**
 * Whether a page's own text is the same before and after, whatever happened in its places for answers:
 * the inside of an answer, an option's `chosen` and a piece's `place` are free, all else must be equal; of a drawing
 * so must what it was handed out with.
 * Parts that the two pages share are one object, so only what changed is compared.
 */
export function guardedTextKept(before: Node, after: Node): boolean {
  if (before === after) return true;
  if (before.type !== after.type) return false;
  const free = FREE[before.type.name];
  if (!sameAttrs(before, after, free) || !Mark.sameSet(before.marks, after.marks)) return false;
  if (before.type.name === 'answer_drawing') {
    const [was, is] = [givenOn(before), givenOn(after)];
    return was.length === is.length && was.every((one, i) => guardedTextKept(one, is[i] ?? after));
  }
  if (isAnswer(before) && before.type.name !== 'answer_choice') return !holdsAnswer(after);
  if (before.isText) return before.text === after.text;
  if (before.childCount !== after.childCount) return false;
  for (let i = 0; i < before.childCount; i++)
    if (!guardedTextKept(before.child(i), after.child(i))) return false;
  return true;
}
