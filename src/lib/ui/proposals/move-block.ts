import { Selection, type Command } from 'prosemirror-state';

/** Moves the block that the caret is in, an item of a list or a paragraph, before or behind its neighbour. */
export const moveBlock =
  (by: -1 | 1): Command =>
  (state, dispatch) => {
    const { $from } = state.selection;
    for (let depth = $from.depth; depth > 0; depth--) {
      const parent = $from.node(depth - 1);
      const index = $from.index(depth - 1);
      const isMovable =
        $from.node(depth).type.name === 'list_item' || $from.node(depth).isTextblock;
      const other = parent.maybeChild(index + by);
      if (!isMovable || !other || other.type !== $from.node(depth).type) continue;
      const block = $from.node(depth);
      const start = $from.before(depth);
      const to = by < 0 ? start - other.nodeSize : start + other.nodeSize;
      if (dispatch) {
        const { tr } = state;
        tr.delete(start, start + block.nodeSize).insert(to, block);
        const inside = to + ($from.pos - start);
        dispatch(tr.setSelection(Selection.near(tr.doc.resolve(inside))).scrollIntoView());
      }
      return true;
    }
    return false;
  };
