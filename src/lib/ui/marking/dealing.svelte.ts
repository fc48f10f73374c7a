import { send } from '../send';

/**
 * Copies are dealt out: to those who mark them, or to classmates who score them. How they were dealt before can be put
 * back, while this view is open.
 */
export class Dealing<Dealt extends object> {
  /** Whether the form is open. */
  isOpen = $state(false);
  sending = $state(false);
  /** Why it was not done. */
  sentence = $state('');
  /** How they were dealt before; null where there is nothing to undo. */
  private before: Dealt | null = $state.raw(null);

  /** @param at where it is sent @param changed reads the view again */
  constructor(
    private readonly at: string,
    private readonly changed: () => Promise<void>,
  ) {}

  get canUndo(): boolean {
    return this.before !== null;
  }
  deal = (asked: object): Promise<void> => this.run(() => send<Dealt>(this.at, asked));
  /** Deals them just so. */
  set = (dealt: Dealt): Promise<void> => this.run(() => send<Dealt>(this.at, dealt, 'PUT'));
  undo = (): Promise<void> =>
    this.run(async () => {
      if (this.before) await send(this.at, this.before, 'PUT');
      return null;
    });

  private async run(deed: () => Promise<Dealt | null>): Promise<void> {
    this.sending = true;
    this.sentence = '';
    try {
      this.before = await deed();
      this.isOpen = false;
      await this.changed();
    } catch (error) {
      this.sentence = error instanceof Error ? error.message : '';
    }
    this.sending = false;
  }
}
