import { Mark, type Node } from 'prosemirror-model';
import { isAnswer } from './schema';

const sameAttrs = (a: Node, b: Node, free?: string): boolean =>
  Object.keys(a.attrs).every((name) => name === free || a.attrs[name] === b.attrs[name]);

function holdsAnswer(node: Node): boolean {
  let found = false;
  node.descendants((child) => void (found ||= isAnswer(child)));
  return found;
}

/**
 * Whether a page's own text is the same before and after, whatever happened in its places for answers:
 * the inside of an answer and an option's `chosen` are free, all else must be equal.
 * Parts that the two pages share are one object, so only what changed is compared.
 */
export function guardedTextKept(before: Node, after: Node): boolean {
  if (before === after) return true;
  if (before.type !== after.type) return false;
  const free = before.type.name === 'choice' ? 'chosen' : undefined;
  if (!sameAttrs(before, after, free) || !Mark.sameSet(before.marks, after.marks)) return false;
  if (isAnswer(before) && before.type.name !== 'answer_choice') return !holdsAnswer(after);
  if (before.isText) return before.text === after.text;
  if (before.childCount !== after.childCount) return false;
  for (let i = 0; i < before.childCount; i++)
    if (!guardedTextKept(before.child(i), after.child(i))) return false;
  return true;
}
