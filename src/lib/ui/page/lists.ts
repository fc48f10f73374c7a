import type { NodeType } from 'prosemirror-model';
import { liftListItem, wrapInList } from 'prosemirror-schema-list';
import type { Command, EditorState } from 'prosemirror-state';
import { schema } from '$core/page/schema';

const { bullet_list, ordered_list, list_item } = schema.nodes;

/** The innermost list around the selection, with where it begins; null outside of lists. */
export function listAround({ selection: { $from, $to } }: EditorState) {
  const range = $from.blockRange($to);
  for (let depth = range?.depth ?? 0; depth > 0; depth--) {
    const node = $from.node(depth);
    if (node.type === bullet_list || node.type === ordered_list)
      return { node, pos: $from.before(depth) };
  }
  return null;
}

/** Makes a list of what is selected, makes a list one of the other kind, or turns one of this kind off. */
export const toggleList =
  (kind: NodeType): Command =>
  (state, dispatch) => {
    const list = listAround(state);
    if (!list) return wrapInList(kind)(state, dispatch);
    if (list.node.type === kind) return liftListItem(list_item)(state, dispatch);
    dispatch?.(state.tr.setNodeMarkup(list.pos, kind));
    return true;
  };
