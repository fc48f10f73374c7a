import type { Mappable } from 'prosemirror-transform';

/** The words a thread is tied to, as page positions of one version; `from === to` when they are gone. */
export interface Anchor {
  from: number;
  to: number;
}

/** An anchor after a change. It keeps to its words: what is typed at its edges stays outside. */
export function moveAnchor(anchor: Anchor, change: Mappable): Anchor {
  const from = change.map(anchor.from, 1);
  return { from, to: Math.max(from, change.map(anchor.to, -1)) };
}
