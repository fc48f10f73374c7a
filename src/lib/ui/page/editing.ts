import type { Command, EditorState, Transaction } from 'prosemirror-state';

/** A page in an editor, as far as its view and its toolbar need it. */
export interface Editing {
  readonly state: EditorState;
  /** Whether this person may only read: the caret moves, words can be selected, nothing changes. */
  reading: boolean;
  /** Called when a state from outside must be shown by the editor. */
  show: (state: EditorState) => void;
  dispatch: (transaction: Transaction) => void;
  readonly undo: Command;
}
