import type { Spot } from '$core/attached/spot';
import type { MarginView, ThreadView } from '$core/copy/threads';
import type { EditorView } from 'prosemirror-view';
import type { ProposalStore } from '../proposals/proposal-store.svelte';
import type { PageSession } from '../page/page-session.svelte';
import { oneAtATime } from '../one-at-a-time';
import { send } from '../send';
import { chooseThread, setThreads } from '../page/thread-highlights';

/** A place on something attached, and the words that stand there. */
export interface Picked {
  attachment: string;
  spot: Spot;
  quote: string;
}

/** The conversations in the margin of one page, and their marks in its text. */
export class ThreadStore {
  threads: ThreadView[] = $state([]);
  /** What is proposed, once there is something. */
  proposals: ProposalStore | null = $state.raw(null);
  chosen: string | null = $state(null);
  sentence = $state('');
  /** Where on something attached the next comment goes; null for none. */
  picked: Picked | null = $state.raw(null);
  readonly open = $derived(this.threads.filter((thread) => !thread.settled));
  readonly settled = $derived(this.threads.filter((thread) => thread.settled));

  constructor(
    private readonly session: PageSession,
    start: MarginView,
  ) {
    this.latest = start;
    this.take(start);
  }
  private latest: MarginView;
  private view: EditorView | null = null;

  /** What stands in the margin now. */
  take(margin: MarginView): void {
    this.latest = margin;
    this.threads = margin.threads;
    if (this.proposals) this.proposals.take(margin);
    else if (margin.proposals.length > 0) void this.beginProposals();
  }

  /** Few copies have proposals: what shows them comes with the first. */
  private async beginProposals() {
    const { ProposalStore } = await import('../proposals/proposal-store.svelte');
    if (this.proposals) return;
    this.proposals = new ProposalStore(this.session, () => void this.refresh(this.view));
    this.proposals.take(this.latest);
    if (this.view) this.proposals.drawIn(this.view);
  }

  /** Draws the marks, once the view is there. */
  draw(view: EditorView): void {
    // What was asked for while it stood may come when another stands in its place.
    if (view.isDestroyed) return;
    if (view !== this.view) this.proposals?.drawIn(view);
    this.view = view;
    const anchors = this.latest.threads.flatMap((thread) =>
      thread.anchor && !thread.settled ? [{ id: thread.id, ...thread.anchor }] : [],
    );
    const places = this.session.placesNow(this.latest.version, anchors);
    if (places) view.dispatch(setThreads(view.state.tr, places));
  }

  choose(thread: string | null, view: EditorView | null): void {
    this.chosen = thread;
    view?.dispatch(chooseThread(view.state.tr, thread));
  }

  private readonly read = oneAtATime(async () => {
    const answer = await fetch(this.url).catch(() => null);
    if (!answer?.ok) return;
    const margin: MarginView = await answer.json();
    this.take(margin);
    // The page may be behind the places just heard of; it catches up first.
    await this.session.hear(margin.version);
  });

  /** Reads the conversations again and draws their marks. */
  async refresh(view: EditorView | null): Promise<void> {
    await this.read();
    if (view) this.draw(view);
  }

  private async send(url: string, view: EditorView | null, body: object): Promise<boolean> {
    try {
      const { sentence } = await send<{ sentence?: string | null }>(url, body);
      this.sentence = sentence ?? '';
      await this.refresh(view);
      return true;
    } catch (error) {
      this.sentence = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
      return false;
    }
  }

  private get url() {
    return `/pages/${this.session.page}/threads`;
  }

  /**
   * Ties a comment to a place on something attached, to the selected words, or to the whole copy when none are selected.
   * @returns whether it is kept
   */
  async begin(
    said: { text: string; keptBack: boolean; staffOnly: boolean },
    view: EditorView | null,
    tied: boolean,
  ): Promise<boolean> {
    if (this.picked) {
      const kept = await this.send(this.url, view, { ...said, anchor: null, on: this.picked });
      if (kept) this.picked = null;
      return kept;
    }
    await this.session.flush().catch(() => undefined);
    const anchor = tied ? this.session.selectedPlace() : null;
    return this.send(this.url, view, { ...said, anchor });
  }

  /** A student decides proposals, with all of the page saved: what they typed comes first. */
  async decide(
    deed: 'take' | 'leave' | 'open again' | 'undo',
    ids: readonly string[],
    view: EditorView | null,
  ): Promise<void> {
    try {
      await this.session.flush();
    } catch {
      this.sentence = 'Your words are not saved yet. Please try again in a moment.';
      return;
    }
    await this.send(`/pages/${this.session.page}/proposals/decide`, view, { deed, ids });
  }

  withdraw(ids: readonly string[], view: EditorView | null): Promise<boolean> {
    return this.send(`/pages/${this.session.page}/proposals/withdraw`, view, { ids });
  }

  say(
    thread: string,
    said: { text: string; keptBack: boolean },
    view: EditorView | null,
  ): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: 'said', ...said });
  }

  settle(thread: string, settled: boolean, view: EditorView | null): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: settled ? 'settled' : 'opened again' });
  }
}
