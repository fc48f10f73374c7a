import { Plugin } from 'prosemirror-state';
import type { Anchor } from '$core/history/anchor';
import { stampPlace } from '$core/stamps/stamp-place';

/** Puts the stamp that was picked where somebody points, or at the caret with Enter. */
export const stampPlacing = (isPicked: () => boolean, put: (place: Anchor) => void): Plugin =>
  new Plugin({
    props: {
      attributes: (): Record<string, string> => (isPicked() ? { class: 'putting-stamp' } : {}),
      handleClickOn(view, pos, node, nodePos) {
        if (!isPicked()) return false;
        put(stampPlace(view.state.doc, node.isAtom && node.isBlock ? nodePos : pos));
        return true;
      },
      handleKeyDown(view, event) {
        if (!isPicked() || event.key !== 'Enter') return false;
        put(stampPlace(view.state.doc, view.state.selection.head));
        return true;
      },
    },
  });
