import { mendGaps, type Chosen, type Outcome } from './mend-gaps';

/** The closing of gaps from a panel: that it is under way, and why it was not done. */
export class Mending {
  busy = $state(false);
  trouble = $state('');

  constructor(
    private readonly klass: string,
    private readonly nameOf: (students: readonly string[]) => string,
  ) {}

  /** @returns null when nothing came of it; `trouble` says why */
  async close(chosen: readonly Chosen[]): Promise<Outcome | null> {
    this.busy = true;
    this.trouble = '';
    try {
      return await mendGaps(this.klass, chosen, this.nameOf);
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : '';
      return null;
    } finally {
      this.busy = false;
    }
  }
}
