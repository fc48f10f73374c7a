import { checkParts } from '../marking/check-copy';
import type { Keys } from '../marking/key-changes';
import type { Part } from '../page/parts';

/** How a part of a copy stands: with an answer key, whether it agrees. */
export type PartStands = 'blank' | 'begun' | 'done' | 'right' | 'wrong';

/** How the parts of a copy stand, by their ids. @param keys those of its page, where the assignment marks itself */
export function standsOf(parts: readonly Part[], keys: Keys): Record<string, PartStands> {
  const verdicts = new Map(
    checkParts(parts, keys)?.parts.map(({ id, verdict }) => [id, verdict] as const),
  );
  const stands = ({ id, done, answer }: Part): PartStands => {
    const verdict = verdicts.get(id);
    if (verdict && verdict !== 'no answer') return verdict === 'right' ? 'right' : 'wrong';
    if (done) return 'done';
    return answer === '' ? 'blank' : 'begun';
  };
  return Object.fromEntries(parts.map((part) => [part.id, stands(part)]));
}
