import { undo } from 'prosemirror-history';
import type { Command } from 'prosemirror-state';

/** Undo of one kind, then of another, when the first has nothing to do. */
export const undoOr =
  (further: () => boolean, go: () => void): Command =>
  (state, dispatch) => {
    if (undo(state, dispatch)) return true;
    if (!further()) return false;
    if (dispatch) go();
    return true;
  };
