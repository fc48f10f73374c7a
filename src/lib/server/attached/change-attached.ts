import type { CopyRow } from '$core/copy/copy-row';
import { mayWrite, stateOf } from '$core/copy/state';
import type { Grant } from '../access/grant';
import { recordMove, type MovedCopy } from '../copy/record-move';
import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/** Files and links on one copy. */
const MOST_ATTACHED = 30;

/** @throws Refusal when nothing more goes onto a copy that has so many things attached */
export function refuseTooMany(attached: number): void {
  if (attached >= MOST_ATTACHED)
    throw new Refusal(
      422,
      `A copy has at most ${MOST_ATTACHED} things attached. Please remove one first.`,
    );
}

/**
 * Changes what is attached to a copy, which its student may while they may write: with the copy locked, and told to whoever sees it.
 * @param may refuses it by how the copy stands
 * @throws Refusal when its teacher has it
 */
export const changeAttached = (
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'do own work'>,
  change: (tx: Tx, at: MovedCopy) => Promise<void>,
  may: (copy: CopyRow) => void = () => undefined,
): Promise<void> =>
  recordMove(
    app,
    { page: thing.id, person: person.id },
    (copy) => {
      if (!mayWrite(stateOf(copy.facts)))
        throw new Refusal(
          423,
          'This copy is handed in, so nothing can be attached or removed now. Take it back to go on.',
        );
      may(copy);
      return [];
    },
    async (tx, at) => {
      await change(tx, at);
      return null;
    },
  );
