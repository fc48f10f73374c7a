import { z } from 'zod';
import { send } from '../send';
import { readAgain } from '$ui/refresh';

const Held = z.object({
  pages: z.array(z.string()),
  rubrics: z.array(z.string()).default([]),
  titles: z.array(z.string()),
  move: z.boolean(),
});
type Held = z.infer<typeof Held>;

const NAME = 'uncia clipboard';

/** The pages and rubrics somebody took up to put them down elsewhere, also in another course or after a reload. */
class Clipboard {
  held: Held | null = $state(null);

  constructor() {
    if (typeof sessionStorage === 'undefined') return;
    const read = Held.safeParse(JSON.parse(sessionStorage.getItem(NAME) ?? 'null'));
    this.held = read.success ? read.data : null;
  }

  pickUp(held: Held): void {
    this.held = held;
    sessionStorage.setItem(NAME, JSON.stringify(held));
  }

  /** Puts down into a unit of what `to` serves. @returns the sentence that says why not, or nothing */
  async put(to: string, unit: string | null): Promise<string> {
    if (!this.held) return '';
    const { titles: _titles, ...held } = this.held;
    try {
      await send(to, { ...held, unit });
    } catch (error) {
      return error instanceof Error ? error.message : 'They could not be put here.';
    }
    this.clear();
    await readAgain();
    return '';
  }

  clear(): void {
    this.held = null;
    sessionStorage.removeItem(NAME);
  }
}

export const clipboard = new Clipboard();
