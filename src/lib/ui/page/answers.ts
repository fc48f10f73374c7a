import { chainCommands } from 'prosemirror-commands';
import { keydownHandler } from 'prosemirror-keymap';
import type { Node, ResolvedPos } from 'prosemirror-model';
import {
  NodeSelection,
  Plugin,
  TextSelection,
  type Command,
  type Selection,
} from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { guardedTextKept } from '$core/page/guard';
import { readNumber, textOf } from '$core/page/parts';
import { isAnswer, schema } from '$core/page/schema';

/** The answer that a position is in, with where it begins; null outside of answers. */
export function answerAround($pos: ResolvedPos): { node: Node; pos: number } | null {
  for (let depth = $pos.depth; depth > 0; depth--) {
    const node = $pos.node(depth);
    if (isAnswer(node)) return { node, pos: $pos.before(depth) };
  }
  return null;
}

/** The answer that the cursor is in, or that is selected as a whole; null where it is none, or words are selected. */
export function selectedAnswer(selection: Selection): { node: Node; pos: number } | null {
  if (selection instanceof NodeSelection && isAnswer(selection.node))
    return { node: selection.node, pos: selection.from };
  return selection.empty ? answerAround(selection.$from) : null;
}

const isOneLine = ($pos: ResolvedPos) =>
  $pos.parent.type.name === 'answer_short' || $pos.parent.type.name === 'answer_number';

/** Where text can be typed in the answers of a page, in reading order. */
function typingPlaces(doc: Node): number[] {
  const places: number[] = [];
  doc.descendants((node, pos) => {
    if (!isAnswer(node)) return true;
    if (node.type.name === 'answer_short' || node.type.name === 'answer_number')
      places.push(pos + 1 + node.content.size);
    if (node.type.name === 'answer_writing') places.push(pos + 2);
    return false;
  });
  return places;
}

/** Moves the cursor to the next or previous answer; leaves the page after the last one. */
const moveToAnswer =
  (direction: 1 | -1): Command =>
  (state, dispatch) => {
    const here = answerAround(state.selection.$from);
    if (!here || here.node.type.name === 'answer_writing') return false;
    const places = typingPlaces(state.doc);
    const beyond = direction === 1 ? here.pos + here.node.nodeSize : here.pos;
    const next =
      direction === 1
        ? places.find((place) => place > beyond)
        : places.findLast((place) => place < beyond);
    if (next === undefined) return false;
    dispatch?.(state.tr.setSelection(TextSelection.create(state.doc, next)).scrollIntoView());
    return true;
  };

const stayInLine: Command = (state, dispatch) => {
  if (!isOneLine(state.selection.$from)) return false;
  return moveToAnswer(1)(state, dispatch) || true;
};

/** Who makes a page writes on below the answer that they have put there. */
const writeBelow: Command = ({ selection, doc, tr }, dispatch) => {
  const here = answerAround(selection.$from);
  if (!here || !isOneLine(selection.$from)) return false;
  const below = here.pos + here.node.nodeSize;
  const isInCell = doc.resolve(below).parent.type.spec.tableRole !== undefined;
  if (isInCell) return false;
  const change = tr.insert(below, schema.nodes.paragraph.create());
  const cursor = TextSelection.create(change.doc, below + 1);
  dispatch?.(change.setSelection(cursor).scrollIntoView());
  return true;
};

/** Keys inside answers: one line stays one line, Tab goes from answer to answer. */
export const answerKeys = (original: boolean): Plugin =>
  new Plugin({
    props: {
      handleKeyDown: keydownHandler({
        Enter: original ? chainCommands(writeBelow, stayInLine) : stayInLine,
        'Shift-Enter': stayInLine,
        Tab: moveToAnswer(1),
        'Shift-Tab': moveToAnswer(-1),
      }),
    },
  });

/** Selects the whole answer that the cursor is in, rather than the page around it, which cannot be changed. */
const selectAnswer: Command = (state, dispatch) => {
  const here = answerAround(state.selection.$from);
  if (!here || !here.node.type.isBlock || here.node.type.name === 'answer_choice') return false;
  const [from, to] = [here.pos + 1, here.pos + here.node.nodeSize - 1];
  const whole = TextSelection.between(state.doc.resolve(from), state.doc.resolve(to));
  dispatch?.(state.tr.setSelection(whole));
  return true;
};

/** Keeps a student's hands off the page's own text while it is guarded, as the server does, and says so. */
export const guardText = (guarded: () => boolean, warn: (sentence: string) => void): Plugin =>
  new Plugin({
    props: {
      handleKeyDown: keydownHandler({
        'Mod-a': (state, dispatch) => guarded() && selectAnswer(state, dispatch),
      }),
    },
    filterTransaction(transaction, state) {
      const isFree =
        !guarded() ||
        !transaction.docChanged ||
        transaction.getMeta('rebased') !== undefined ||
        guardedTextKept(state.doc, transaction.doc);
      if (!isFree)
        warn('The page’s own text stays as it is. Please write in the places for answers.');
      return isFree;
    },
  });

const HINTS: Record<string, (node: Node) => string> = {
  answer_short: () => 'a few words',
  answer_number: (node) => (node.attrs.unit ? `a number, ${node.attrs.unit}` : 'a number'),
  answer_writing: (node) =>
    node.attrs.aim ? `write here, about ${node.attrs.aim} words` : 'write here',
};

const isEmpty = (node: Node) =>
  node.isTextblock
    ? node.content.size === 0
    : node.childCount === 1 && node.firstChild?.content.size === 0;

/** Says in each empty answer what goes there. */
export const answerHints = new Plugin({
  props: {
    decorations(state) {
      const hints: Decoration[] = [];
      state.doc.descendants((node, pos) => {
        const hint = HINTS[node.type.name];
        if (hint && isEmpty(node))
          hints.push(
            Decoration.node(pos, pos + node.nodeSize, {
              class: 'answer-empty',
              'data-hint': hint(node),
            }),
          );
        // What cannot be read as a number is said at once, to whoever types it.
        if (node.type.name === 'answer_number' && !isEmpty(node) && !readNumber(textOf(node)))
          hints.push(Decoration.node(pos, pos + node.nodeSize, { class: 'answer-unreadable' }));
        return !isAnswer(node);
      });
      return DecorationSet.create(state.doc, hints);
    },
  },
});

/** Gives every answer and option of an original an id of its own, also after a paste. */
export const giveIds = new Plugin({
  appendTransaction(transactions, _before, state) {
    if (
      !transactions.some((one) => one.docChanged) ||
      transactions.some((one) => one.getMeta('rebased') !== undefined)
    )
      return null;
    const seen = new Set<string>();
    const transaction = state.tr;
    state.doc.descendants((node, pos) => {
      if (!isAnswer(node) && node.type.name !== 'choice') return;
      const { id } = node.attrs;
      if (!id || seen.has(id))
        transaction.setNodeAttribute(pos, 'id', crypto.randomUUID().slice(0, 8));
      seen.add(id);
    });
    return transaction.docChanged ? transaction : null;
  },
});
