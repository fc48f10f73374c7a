import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep, type Step } from 'prosemirror-transform';
import { guardedTextKept } from '../page/guard';
import { piecesOf } from '../page/drawing';
import { isAnswer } from '../page/schema';
import { withPassage, type Range } from './compare';
import { applyStep } from './moment';

/** In the log, a step that put a page back names the version here. */
export const PUTS_BACK = 'putsBack';

/** One step that makes one page of another; null when they are equal. What both begin and end with stays untouched. */
export function stepBetween(now: Node, then: Node): Step | null {
  const start = now.content.findDiffStart(then.content);
  const ends = now.content.findDiffEnd(then.content);
  if (start === null || ends === null) return null;
  // Where the same text stands twice, the two ends may pass the start.
  const overlap = Math.max(0, start - Math.min(ends.a, ends.b));
  const least = tried(() => {
    const step = new ReplaceStep(start, ends.a + overlap, then.slice(start, ends.b + overlap));
    return applyStep(step, now).eq(then) ? step : null;
  });
  return least ?? new ReplaceStep(0, now.content.size, new Slice(then.content, 0, 0));
}

/**
 * The page that putting back `then` leads to: it as it stood, or one passage of it in the page as it is now. Of a guarded
 * page whose own text has changed since, what stood in its places for answers, in the text as it is now.
 */
export function pagePutBack(
  now: Node,
  then: Node,
  { guarded, passage }: { guarded: boolean; passage: Range | null },
): Node {
  const wanted = passage ? withPassage(now, then, passage) : then;
  if (!guarded || guardedTextKept(now, wanted)) return wanted;
  const answers = new Map<string, Node>();
  wanted.descendants((node) => {
    if (!isAnswer(node)) return true;
    answers.set(String(node.attrs.id), node);
    return false;
  });
  return withAnswers(now, answers);
}

function withAnswers(node: Node, answers: ReadonlyMap<string, Node>): Node {
  if (isAnswer(node)) {
    const then = answers.get(String(node.attrs.id));
    if (then?.type !== node.type) return node;
    if (node.type.name === 'answer_choice') return chosenAsIn(node, then);
    if (node.type.name === 'answer_drawing') return drawnAsIn(node, then);
    return node.copy(then.content);
  }
  if (node.isLeaf || node.isTextblock) return node;
  return node.copy(Fragment.from(node.children.map((child) => withAnswers(child, answers))));
}

/** The options as they are now, chosen as they were. */
function chosenAsIn(now: Node, then: Node): Node {
  const chosen = new Set(
    then.children.filter(({ attrs }) => attrs.chosen).map(({ attrs }) => attrs.id),
  );
  return now.copy(
    Fragment.from(
      now.children.map((option) =>
        option.type.create(
          { ...option.attrs, chosen: chosen.has(option.attrs.id) },
          option.content,
          option.marks,
        ),
      ),
    ),
  );
}

/** What a drawing was handed out with, as it is now, with its pieces where they were, and what was drawn then. */
function drawnAsIn(now: Node, then: Node): Node {
  const places = new Map(piecesOf(then).map(({ attrs }) => [attrs.id, attrs.place]));
  const isGiven = ({ type: { name }, attrs }: Node) =>
    name === 'spot' || name === 'piece' || attrs.given;
  const given = now.children.filter(isGiven).map((one) => {
    const place = one.type.name === 'piece' ? places.get(one.attrs.id) : undefined;
    return place === undefined ? one : one.type.create({ ...one.attrs, place });
  });
  return now.copy(Fragment.from([...given, ...then.children.filter((one) => !isGiven(one))]));
}

function tried(make: () => Step | null): Step | null {
  try {
    return make();
  } catch {
    return null;
  }
}
