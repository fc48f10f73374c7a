import { closeHistory, history } from 'prosemirror-history';
import { Node } from 'prosemirror-model';
import { EditorState, type Transaction } from 'prosemirror-state';
import { Step } from 'prosemirror-transform';
import { schema } from '../page/schema';
import { unsentSteps } from './unsent-steps';

/** A person's last sitting on a page before a visit, with all that came after it. */
export interface OwnSitting {
  /** The version of `doc`, with which the sitting began. */
  version: number;
  doc: object;
  /** `own`: whether undo takes it back. `at` in epoch milliseconds. */
  steps: { body: object; at: number; own: boolean }[];
}

/** Whoever takes away more places of a page than this at once gets that back by itself, not with what they typed before. */
const MUCH = 10;
const isMuch = (step: Step): boolean => {
  let much = false;
  step.getMap().forEach((from, to) => (much ||= to - from > MUCH));
  return much;
};

/** An editor that has lived through a sitting: what its person did can be undone in it, and the rest stays. */
export function livedThrough({ doc, steps }: OwnSitting): EditorState {
  const plugins = [history(), unsentSteps(0)];
  return steps.reduce(
    (state, { body, at, own }) => {
      const step = Step.fromJSON(schema, body);
      const change = state.tr.step(step).setTime(at);
      if (!own) return state.apply(change.setMeta('addToHistory', false));
      return state.apply(isMuch(step) ? closeHistory(change) : change);
    },
    EditorState.create({ doc: Node.fromJSON(schema, doc), plugins }),
  );
}

/** The history plugin keeps its state under this name, and takes another one from a transaction that brings it so. */
const HISTORY = 'history$';

/** Gives an editor the undo history of another one that shows the same page. */
export const withHistoryOf = (state: EditorState, other: EditorState): Transaction =>
  state.tr.setMeta(HISTORY, { historyState: Reflect.get(other, HISTORY) });
