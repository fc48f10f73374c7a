import type { Spot } from '$core/attached/spot';
import type { Threads, ThreadView } from '$core/copy/threads';
import type { EditorView } from 'prosemirror-view';
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
  chosen: string | null = $state(null);
  sentence = $state('');
  /** Where on something attached the next comment goes; null for none. */
  picked: Picked | null = $state.raw(null);
  readonly open = $derived(this.threads.filter((thread) => !thread.settled));
  readonly settled = $derived(this.threads.filter((thread) => thread.settled));

  constructor(
    private readonly session: PageSession,
    start: Threads,
  ) {
    this.threads = start.threads;
    this.latest = start;
  }
  private latest: Threads;

  /** Draws the marks, once the view is there. */
  draw(view: EditorView): void {
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
    const threads: Threads = await answer.json();
    this.latest = threads;
    this.threads = threads.threads;
    // The page may be behind the places just heard of; it catches up first.
    await this.session.hear(threads.version);
  });

  /** Reads the conversations again and draws their marks. */
  async refresh(view: EditorView | null): Promise<void> {
    await this.read();
    if (view) this.draw(view);
  }

  private async send(url: string, view: EditorView | null, body: object): Promise<boolean> {
    try {
      await send(url, body);
      this.sentence = '';
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
  async begin(text: string, view: EditorView | null, tied: boolean): Promise<boolean> {
    if (this.picked) {
      const kept = await this.send(this.url, view, { text, anchor: null, on: this.picked });
      if (kept) this.picked = null;
      return kept;
    }
    await this.session.flush().catch(() => undefined);
    const anchor = tied ? this.session.selectedPlace() : null;
    return this.send(this.url, view, { text, anchor });
  }

  say(thread: string, text: string, view: EditorView | null): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: 'said', text });
  }

  settle(thread: string, settled: boolean, view: EditorView | null): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: settled ? 'settled' : 'opened again' });
  }
}
