import type { Node } from 'prosemirror-model';

/** Whether something on a page lies inside more than `most` others. Goes no deeper than that. */
export function isDeeperThan(page: Node, most: number): boolean {
  if (most < 0) return true;
  for (let i = 0; i < page.childCount; i++)
    if (!page.child(i).isText && isDeeperThan(page.child(i), most - 1)) return true;
  return false;
}
