import {
  Plugin,
  PluginKey,
  TextSelection,
  type EditorState,
  type Transaction,
} from 'prosemirror-state';
import { ReplaceStep, type Step } from 'prosemirror-transform';
import { rebase, rebaseWithout, type WaitingStep } from './rebase';

/** What an editor has not sent yet, on the version of the log that it knows. */
interface Unsent {
  version: number;
  waiting: readonly WaitingStep<Transaction>[];
  /** Where this writer's last typing ended, as the page stands now; null before anything was typed. */
  end: number | null;
}

const key = new PluginKey<Unsent>('unsent steps');

/** Where a step's typing ends; null for one that types nothing. */
const endOf = (step: Step): number | null =>
  step instanceof ReplaceStep && step.slice.size > 0 ? step.from + step.slice.size : null;

/** What is moved within a page by hand is no paste, though it is dropped. */
function isPaste(origin: Transaction, step: Step): boolean {
  if (!(step instanceof ReplaceStep) || step.slice.size === 0) return false;
  const how: unknown = origin.getMeta('uiEvent');
  const moves = origin.steps.some((one) => one instanceof ReplaceStep && one.from < one.to);
  return how === 'paste' || (how === 'drop' && !moves);
}

function added({ version, waiting, end }: Unsent, transaction: Transaction): Unsent {
  const more: WaitingStep<Transaction>[] = [];
  let last = end;
  transaction.steps.forEach((step, index) => {
    const before = transaction.docs[index] ?? transaction.before;
    const follows = step instanceof ReplaceStep && step.from === step.to && step.from === last;
    more.push({ step, inverted: step.invert(before), follows, origin: transaction });
    last = endOf(step) ?? (last === null ? null : step.getMap().map(last, -1));
  });
  return { version, waiting: [...waiting, ...more], end: last };
}

/** Where somebody's cursor is when they have made a step: behind what it put in, or where something went. */
export function endOfStep(step: Step): number {
  let end = 0;
  step.getMap().forEach((_from, _to, _newFrom, newTo) => (end = newTo));
  return end;
}

/**
 * Remembers an editor's own steps until the log has them, as prosemirror-collab does; besides, which of them type on
 * behind the writer's own last words, so that several who type at one place keep their words apart.
 * @param version of the log that the editor begins with
 */
export const unsentSteps = (version: number): Plugin<Unsent> =>
  new Plugin<Unsent>({
    key,
    state: {
      init: () => ({ version, waiting: [], end: null }),
      apply(transaction, unsent) {
        const received: Unsent | undefined = transaction.getMeta(key);
        if (received) return received;
        return transaction.docChanged ? added(unsent, transaction) : unsent;
      },
    },
    // The history plugin merges no steps, so that it can be rebased.
    historyPreserveItems: true,
  });

const unsentOf = (state: EditorState): Unsent =>
  key.getState(state) ?? { version: 0, waiting: [], end: null };

/** The version of the log that the editor knows. */
export const versionOf = (state: EditorState): number => unsentOf(state).version;

/** How many steps wait to be sent. */
export const unsentCount = (state: EditorState): number => unsentOf(state).waiting.length;

/** What waits to be sent, in order. */
export const unsentIn = (
  state: EditorState,
): readonly { step: Step; follows: boolean; pasted: boolean }[] =>
  unsentOf(state).waiting.map(({ step, follows, origin }) => ({
    step,
    follows,
    pasted: isPaste(origin, step),
  }));

/** The same with the edit that each is of: what was done at once is one. */
export const editsIn = (state: EditorState): readonly { step: Step; edit: Transaction }[] =>
  unsentOf(state).waiting.map(({ step, origin }) => ({ step, edit: origin }));

/**
 * Takes out steps that wait: what was done after them stays where it still has a place.
 * @param leaves which of them, by their places
 * @returns the change, and the steps that went, those with them whose place went, too
 */
export function dropSteps(
  state: EditorState,
  leaves: (no: number) => boolean,
): { change: Transaction; gone: Step[] } {
  const { version, waiting } = unsentOf(state);
  const { tr } = state;
  const left = rebaseWithout(waiting, [], tr, leaves);
  const stays = new Set(left.map(({ no }) => no));
  const next: Unsent = { version, waiting: left.map(({ waiting }) => waiting), end: null };
  return {
    change: tr.setMeta('rebased', waiting.length).setMeta('addToHistory', false).setMeta(key, next),
    gone: waiting.filter((_, no) => !stays.has(no)).map(({ step }) => step),
  };
}

/**
 * Takes in steps of the log.
 * @param own how many of them, from the first on, are this editor's own, and so are confirmed
 */
export function receive(state: EditorState, steps: readonly Step[], own: number): Transaction {
  const { version, waiting, end } = unsentOf(state);
  const left = waiting.slice(own);
  const others = steps.slice(own);
  const next = { version: version + steps.length, waiting: left, end };
  const { tr } = state;
  if (others.length === 0) return tr.setMeta(key, next);
  const rebased = rebase(left, others, tr);
  const moved = {
    ...next,
    waiting: rebased,
    end: end === null ? null : tr.mapping.map(end, -1),
  };
  if (state.selection instanceof TextSelection) {
    // A cursor stays behind its writer's own words; one that stands behind another's goes on behind theirs.
    const place = (at: number) => tr.doc.resolve(tr.mapping.map(at, at === end ? -1 : 1));
    const { anchor, head } = state.selection;
    tr.setSelection(TextSelection.between(place(anchor), place(head), -1));
  }
  return tr.setMeta('rebased', left.length).setMeta('addToHistory', false).setMeta(key, moved);
}

/** Takes out the first step that waits, which the log refuses. */
export const dropFirst = (state: EditorState) => dropSteps(state, (no) => no === 0);
