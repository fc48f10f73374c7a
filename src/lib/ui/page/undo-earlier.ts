import { undo } from 'prosemirror-history';
import type { EditorState, Transaction } from 'prosemirror-state';
import { livedThrough, withHistoryOf, type OwnSitting } from '$core/history/own-sitting';

/** What undo needs of an open page. */
interface OpenPage {
  readonly state: EditorState;
  readonly version: number;
  readonly hasUnsent: boolean;
  dispatch: (transaction: Transaction) => void;
  flush: () => Promise<void>;
  hear: (version: number) => Promise<void>;
}

/** Others may write while it is asked for. */
const TRIES = 5;

/**
 * Undo, which goes on into the last sitting before this visit when nothing of this one is left to undo.
 * @param ask for that sitting, as the server knows it now
 * @returns whether there was one @throws what `ask` and saving throw
 */
export async function undoEarlier(
  page: OpenPage,
  ask: () => Promise<OwnSitting | null>,
): Promise<boolean> {
  for (let tries = 0; tries < TRIES; tries++) {
    await page.flush();
    const sitting = await ask();
    if (!sitting) return false;
    const newest = sitting.version + sitting.steps.length;
    await page.hear(newest);
    if (page.version !== newest || page.hasUnsent) continue;
    const lived = livedThrough(sitting);
    if (!lived.doc.eq(page.state.doc)) return false;
    page.dispatch(withHistoryOf(page.state, lived));
    return undo(page.state, page.dispatch);
  }
  return false;
}
