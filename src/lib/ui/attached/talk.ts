import type { ThreadView } from '$core/copy/threads';
import type { Picked, ThreadStore } from '../comments/thread-store.svelte';

/** What is said about what is attached, and where the next comment goes. */
export interface Talk {
  threads: readonly ThreadView[];
  /** The thread that is chosen. */
  chosen: string | null;
  choose: (thread: string) => void;
  picked: Picked | null;
  /** Takes a place for the next comment; null where this person makes none. */
  pick: ((at: Picked) => void) | null;
}

/** The talk of a copy's margin. @param pick what follows a place that was taken; null where this person makes none */
export const talkOf = (store: ThreadStore, pick: (() => void) | null): Talk => ({
  threads: store.open,
  chosen: store.chosen,
  choose: (thread) => {
    store.chosen = thread;
    document.getElementById(`thread-${thread}`)?.scrollIntoView({ block: 'nearest' });
  },
  picked: store.picked,
  pick:
    pick &&
    ((at) => {
      store.criterion = null;
      store.picked = at;
      pick();
    }),
});
