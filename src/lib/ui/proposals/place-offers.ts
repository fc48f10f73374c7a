import type { EditorState } from 'prosemirror-state';
import type { StepMap } from 'prosemirror-transform';
import { unsentIn, versionOf } from '$core/history/unsent-steps';
import { followAll, taken, type Offer } from '$core/proposals/offer';

/** An offer with the version of the log that it stands on. */
export interface Standing {
  id: string;
  offer: Offer;
}

/** Where proposals stand at a version of the log, and what the log took in since. */
export interface Placed {
  version: number;
  offers: readonly Standing[];
  /** Of the versions after it, in order and without a gap. */
  since: readonly StepMap[];
}

/**
 * Where proposals stand in an editor: those whose words are there, and which fit it. Null while the editor is at a version that is
 * not known here.
 */
export function placeOffers(
  { version, offers, since }: Placed,
  state: EditorState,
): Standing[] | null {
  const heard = versionOf(state) - version;
  if (heard < 0 || heard > since.length) return null;
  const own = unsentIn(state).map(({ step }) => step.getMap());
  const maps = [...since.slice(0, heard), ...own];
  return offers.flatMap(({ id, offer }) => {
    const now = followAll(offer, maps);
    return now && taken(state.doc, now) ? [{ id, offer: now }] : [];
  });
}
