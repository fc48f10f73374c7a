import { send } from '../send';

/**
 * Hands copies back with the points that are kept back, one after the other.
 * @param each told after each how many are done
 * @returns a sentence when it stopped on the way, else null
 */
export async function handBackKept(
  copies: readonly string[],
  each: (done: number) => void = () => undefined,
): Promise<string | null> {
  let done = 0;
  try {
    for (const copy of copies) {
      await send(`/pages/${copy}/marking`, { move: 'hand back', given: null });
      each(++done);
    }
    return null;
  } catch (error) {
    return `${done} of ${copies.length} are handed back. ${error instanceof Error ? error.message : ''}`;
  }
}
