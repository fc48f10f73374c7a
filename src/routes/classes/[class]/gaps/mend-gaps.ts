import { gapKey, type Gap } from '$core/headcount/gap';
import type { Deed } from '$core/headcount/remedy';
import { sayMended } from '$core/headcount/say-gap';
import { send } from '$ui/send';
import type { Mended } from '$server/headcount/mend';

/** A gap with the deed that is to close it. */
export interface Chosen {
  gap: Gap;
  deed: Deed;
}

/** What came of closing gaps, in words; `undo` is null where nothing can be undone. */
export interface Outcome {
  says: string;
  undo: (() => Promise<unknown>) | null;
  /** What could not be done, a sentence each. */
  troubles: string[];
}

/** Closes gaps of a class at once. @param nameOf whose a gap is @throws Refusal or Error when none could be */
export async function mendGaps(
  klass: string,
  chosen: readonly Chosen[],
  nameOf: (students: readonly string[]) => string,
): Promise<Outcome> {
  const { mended, undo, refused } = await send<Mended>(`/classes/${klass}/gaps`, {
    gaps: chosen.map(({ gap, deed }) => ({ gap: gapKey(gap), deed })),
  });
  const [first] = chosen;
  const isOneKind =
    first && chosen.every(({ gap, deed }) => deed === first.deed && gap.cause === first.gap.cause);
  const whose = new Map(chosen.map(({ gap }) => [gapKey(gap), nameOf(gap.students)]));
  return {
    says: isOneKind
      ? sayMended(first.deed, first.gap.cause, mended)
      : `${mended} of ${chosen.length} gaps are closed.`,
    undo: undo.length > 0 ? () => send(`/classes/${klass}/gaps/undo`, { undo }) : null,
    troubles: refused.map(({ gap, why }) => `${whose.get(gap) ?? ''}: ${why}`),
  };
}
