import type { Spot } from '$core/attached/spot';
import {
  sayStamp,
  type CommentView,
  type MarginView,
  type OnCriterion,
  type ThreadView,
} from '$core/copy/threads';
import type { Anchor } from '$core/history/anchor';
import type { Stamp } from '$core/stamps/stamp';
import type { EditorView } from 'prosemirror-view';
import type { ProposalStore } from '../proposals/proposal-store.svelte';
import type { PageSession } from '../page/page-session.svelte';
import { oneAtATime } from '../one-at-a-time';
import { send } from '../send';
import { chooseThread, setThreads, type ThreadPlace } from '../page/thread-highlights';

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
  /** The criterion of the rubric that the next comment is on; null for none. */
  criterion: OnCriterion | null = $state.raw(null);
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
    if (!this.sign && margin.threads.some(({ stamp }) => stamp)) void this.beginStamps();
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
      thread.anchor && !thread.settled
        ? [{ id: thread.id, ...thread.anchor, ...this.stampOf(thread) }]
        : [],
    );
    const places = this.session.placesNow(this.latest.version, anchors);
    if (places) view.dispatch(setThreads(view.state.tr, places));
  }

  private stampOf({ stamp, comments }: ThreadView): Pick<ThreadPlace, 'stamp'> {
    const sign = this.sign;
    return stamp && sign ? { stamp: { sign: () => sign(stamp), says: sayStamp(comments) } } : {};
  }
  /** Few copies have stamps: what draws them comes with the first. */
  private sign: ((stamp: Stamp) => Element) | null = null;
  private async beginStamps() {
    const [{ stampSign }] = await Promise.all([
      import('../stamps/stamp-sign'),
      import('../stamps/stamps.css'),
    ]);
    this.sign = stampSign;
    if (this.view) this.draw(this.view);
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
    return `/pages/${this.page}/threads`;
  }
  get page(): string {
    return this.session.page;
  }

  /**
   * Ties a comment to a criterion, to a place on something attached, to the selected words, or to the whole copy when none are
   * selected.
   * @returns whether it is kept
   */
  async begin(
    said: { text: string; keptBack: boolean; staffOnly: boolean; file: string | null },
    view: EditorView | null,
    tied: boolean,
  ): Promise<boolean> {
    if (this.criterion) {
      const criterion = this.criterion.id;
      const kept = await this.send(this.url, view, { ...said, anchor: null, criterion });
      if (kept) this.criterion = null;
      return kept;
    }
    if (this.picked) {
      const kept = await this.send(this.url, view, { ...said, anchor: null, on: this.picked });
      if (kept) this.picked = null;
      return kept;
    }
    await this.session.flush().catch(() => undefined);
    const anchor = tied ? this.session.selectedPlace() : null;
    return this.send(this.url, view, { ...said, anchor });
  }

  /** Puts a stamp on a place, or on the whole copy. @returns whether it is there */
  async putStamp(
    said: { text: string; stamp: Stamp; keptBack: boolean },
    place: Anchor | null,
    view: EditorView | null,
  ): Promise<boolean> {
    await this.session.flush().catch(() => undefined);
    const anchor = place && this.session.savedPlace(place);
    if (place && !anchor) {
      this.sentence = 'The page is not saved yet. Please put the stamp there in a moment.';
      return false;
    }
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
    await this.send(`/pages/${this.page}/proposals/decide`, view, { deed, ids });
  }

  withdraw(ids: readonly string[], view: EditorView | null): Promise<boolean> {
    return this.send(`/pages/${this.page}/proposals/withdraw`, view, { ids });
  }

  say(
    thread: string,
    said: { text: string; keptBack: boolean; file?: string | null; instead?: string },
    view: EditorView | null,
  ): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: 'said', ...said });
  }

  /** What was withdrawn last. */
  withdrawn: { thread: string; comment: string; text: string } | null = $state.raw(null);

  /** Withdraws what one said oneself and its student does not have yet. */
  async withdrawComment(
    thread: string,
    comment: CommentView,
    view: EditorView | null,
  ): Promise<void> {
    const { id, text } = comment;
    const done = await this.setWithdrawn('withdrawn', { thread, comment: id }, view);
    if (done) this.withdrawn = { thread, comment: id, text };
  }
  async bringBack(view: EditorView | null): Promise<void> {
    const { withdrawn } = this;
    if (withdrawn && (await this.setWithdrawn('brought back', withdrawn, view)))
      this.withdrawn = null;
  }
  private setWithdrawn(
    kind: 'withdrawn' | 'brought back',
    { thread, comment }: { thread: string; comment: string },
    view: EditorView | null,
  ): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind, comment });
  }

  settle(thread: string, settled: boolean, view: EditorView | null): Promise<boolean> {
    return this.send(`${this.url}/${thread}`, view, { kind: settled ? 'settled' : 'opened again' });
  }
}
