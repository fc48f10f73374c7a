import { Refusal } from '../page/refusal';

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
