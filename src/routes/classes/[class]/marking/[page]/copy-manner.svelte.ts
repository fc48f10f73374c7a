import type { Plugin } from 'prosemirror-state';
import type { MarginView } from '$core/copy/threads';
import type { Editing } from '$ui/page/editing';
import type { PageSession } from '$ui/page/page-session.svelte';
import { Proposing } from '$ui/proposals/proposing.svelte';

/** How one of the staff writes in a copy. */
const MANNERS = { comment: 'Comment', propose: 'Propose', write: 'Write' } as const;
export type Manner = keyof typeof MANNERS;

/** Those that somebody may choose of, with what they are called. */
export const mannersFor = (mayWrite: boolean): [Manner, string][] =>
  (Object.entries(MANNERS) as [Manner, string][]).filter(([one]) => one !== 'write' || mayWrite);

interface Start {
  guarded: boolean;
  /** More plugins for an editor to propose in. */
  plugins: () => Plugin[];
  keptBack: () => boolean;
  proposed: (margin: MarginView) => void;
}

/** How somebody writes in a copy now, and the editor that they do it in. */
export class CopyManner {
  now: Manner = $state('comment');
  proposing: Proposing | null = $state.raw(null);
  trouble = $state('');

  constructor(
    private readonly session: PageSession,
    private readonly start: Start,
  ) {}

  get editing(): Editing {
    return this.proposing ?? this.session;
  }

  /** Why something did not go as it should; empty for nothing. */
  get sentence(): string {
    return this.trouble || this.proposing?.sentence || this.session.sentence || '';
  }

  readonly warn = (sentence: string): void => {
    this.trouble = sentence;
  };

  /** Goes on in another manner, once what was written in this one is with the server. */
  async choose(next: Manner): Promise<void> {
    this.trouble = '';
    try {
      if (this.proposing && !(await this.proposing.close())) return;
      await this.session.flush();
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : '';
      return;
    }
    const { guarded, plugins, keptBack, proposed } = this.start;
    this.proposing =
      next === 'propose'
        ? new Proposing({
            session: this.session,
            guarded,
            more: plugins(),
            warn: this.warn,
            keptBack,
            proposed,
          })
        : null;
    this.now = next;
  }

  sendAway(): void {
    this.proposing?.sendAway();
  }

  end(): void {
    this.sendAway();
    this.proposing?.end();
  }
}
