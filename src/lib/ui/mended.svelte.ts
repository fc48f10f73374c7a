interface Mending {
  says: string;
  undo: () => Promise<unknown>;
}

/** What was mended last, and what undoes it. */
export class Mended {
  last = $state.raw<Mending | null>(null);

  /** @param again reads the board again */
  constructor(private readonly again: () => Promise<void>) {}

  say = (says: string, undo: () => Promise<unknown>): void => {
    this.last = { says, undo };
    void this.again();
  };

  undo = async (): Promise<void> => {
    const { last } = this;
    this.last = null;
    try {
      await last?.undo();
    } catch (error) {
      // It can be tried again.
      this.last = last && { ...last, says: error instanceof Error ? error.message : last.says };
    }
    await this.again();
  };
}
