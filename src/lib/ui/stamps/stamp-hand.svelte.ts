import type { EditorView } from 'prosemirror-view';
import type { Anchor } from '$core/history/anchor';
import { DRAWN_STAMPS, type DrawnName } from '$core/stamps/drawn-stamps';
import type { Stamp } from '$core/stamps/stamp';
import type { ThreadStore } from '../comments/thread-store.svelte';
import { fetchJson } from '../send';

export interface WithWord {
  stamp: Stamp;
  word: string;
}
interface OwnStamp {
  id: string;
  word: string;
  away: boolean;
}

const DRAWN: readonly WithWord[] = (
  Object.entries(DRAWN_STAMPS) as [DrawnName, { word: string }][]
).map(([name, { word }]) => ({ stamp: { kind: 'drawn', name }, word }));

/** The stamps somebody has, and the one that they are about to put on a copy. */
export class StampHand {
  own: readonly WithWord[] = $state.raw([]);
  /** Picked, and not put anywhere yet. */
  picked = $state.raw<WithWord | null>(null);
  readonly all = $derived([...DRAWN, ...this.own]);

  constructor(
    private readonly store: ThreadStore,
    private readonly keptBack: () => boolean,
  ) {}

  /** Reads one's own; without them, those that come with Uncia are there. */
  async load(): Promise<void> {
    const own = await fetchJson<OwnStamp[]>('/stamps').catch(() => []);
    this.own = own
      .filter(({ away }) => !away)
      .map(({ id, word }) => ({ stamp: { kind: 'own', id }, word }));
  }

  /** Puts the picked stamp on a place, or on the whole copy. */
  async put(place: Anchor | null, view: EditorView | null): Promise<void> {
    const { picked } = this;
    if (!picked) return;
    this.picked = null;
    const said = { text: picked.word, stamp: picked.stamp, keptBack: this.keptBack() };
    if (!(await this.store.putStamp(said, place, view))) this.picked = picked;
  }
}
