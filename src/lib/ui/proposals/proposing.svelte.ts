import { undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import { EditorState, Plugin, type Command, type Transaction } from 'prosemirror-state';
import { Mapping } from 'prosemirror-transform';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { MarginView } from '$core/copy/threads';
import { changedRanges } from '$core/history/changed-ranges';
import { dropSteps, editsIn, receive, unsentSteps, versionOf } from '$core/history/unsent-steps';
import { offerOf } from '$core/proposals/make-offer';
import { separate } from '$core/proposals/separate';
import { personHeader } from '../outbox/tab-person';
import type { Editing } from '../page/editing';
import { pagePlugins } from '../page/page-plugins';
import type { PageSession } from '../page/page-session.svelte';
import { send } from '../send';
import { moveBlock } from './move-block';

/** What was written is looked at this long after the last key, in milliseconds. */
const LOOK_AFTER = 300;
/** Who stays at one place without writing has ended what they propose there, in milliseconds. */
const ENDED_AFTER = 8000;

interface Start {
  session: PageSession;
  guarded: boolean;
  /** More plugins for its editor. */
  more: Plugin[];
  warn: (sentence: string) => void;
  /** Whether students hear of it when the copy goes back. */
  keptBack: () => boolean;
  /** What stands in the margin then. */
  proposed: (margin: MarginView) => void;
}

/**
 * A copy as somebody writes in it to propose: what they do is shown at once, and goes to nobody's page. Once they go on to
 * another place, what they did becomes a proposal.
 */
export class Proposing implements Editing {
  state: EditorState = $state.raw() as EditorState;
  reading = false;
  show: (state: EditorState) => void = () => undefined;
  sentence = $state('');
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  private writtenAt = 0;
  /** What is on its way to the server. */
  private sent: readonly unknown[] = [];
  private grouped: { state: EditorState; groups: ReturnType<typeof separate> } | null = null;
  private readonly stopHearing: () => void;

  constructor(private readonly start: Start) {
    const { session, guarded, more, warn } = start;
    const plugins = [
      keymap({ 'Alt-ArrowUp': moveBlock(-1), 'Alt-ArrowDown': moveBlock(1) }),
      keymap({ 'Mod-z': this.undo }),
      ...pagePlugins({ kind: 'copy', guarded: () => guarded, warn }),
      ...more,
      new Plugin({ props: { decorations: (state) => this.drawn(state) } }),
      unsentSteps(session.version),
    ];
    this.state = EditorState.create({ doc: session.loggedPage, plugins });
    this.stopHearing = session.onLogged((changes) => {
      const fresh = changes.filter(({ version }) => version > versionOf(this.state));
      if (fresh.length === 0) return;
      const steps = fresh.map(({ step }) => step);
      this.dispatch(receive(this.state, steps, 0));
    });
  }

  readonly undo: Command = (state, dispatch) => undo(state, dispatch);

  dispatch = (transaction: Transaction): void => {
    const isOwn = transaction.docChanged && transaction.getMeta('rebased') === undefined;
    this.state = this.state.apply(transaction);
    this.show(this.state);
    if (isOwn) this.writtenAt = Date.now();
    if (editsIn(this.state).length > 0) this.lookIn(LOOK_AFTER);
  };

  private lookIn(milliseconds: number) {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.settle();
    }, milliseconds);
  }

  /** What is written and not proposed yet, place by place; on the page that the log has. */
  private groupsIn(state: EditorState) {
    if (this.grouped?.state === state) return this.grouped.groups;
    const groups = separate(this.start.session.loggedPage, editsIn(state));
    this.grouped = { state, groups };
    return groups;
  }

  /** Whether the caret stands where this was written, so that more may come. */
  private isAtCaret(of: readonly number[]): boolean {
    const { from, to } = this.state.selection;
    const maps = editsIn(this.state).map(({ step }, no) => ({
      map: step.getMap(),
      counts: of.includes(no),
    }));
    return changedRanges(maps).some((range) => range.from <= to && from <= range.to);
  }

  /**
   * Proposes what its writer has ended.
   * @param all what they are still at, too: they leave
   */
  async settle(all = false): Promise<void> {
    if (this.busy) return this.lookIn(LOOK_AFTER);
    const rests = Date.now() - this.writtenAt > ENDED_AFTER;
    const groups = this.groupsIn(this.state);
    const ended = groups.filter(({ of }) => all || rests || !this.isAtCaret(of));
    if (groups.length > ended.length) this.lookIn(ENDED_AFTER + LOOK_AFTER);
    const proposals = ended.flatMap(({ steps }) => (steps.length > 0 ? [{ steps }] : []));
    if (ended.length === 0) return;
    const edits = editsIn(this.state);
    const sent = ended.flatMap(({ of }) => of.map((no) => edits[no]?.edit));
    this.sent = sent;
    this.busy = true;
    try {
      if (proposals.length > 0) {
        const body = this.bodyOf(proposals);
        this.start.proposed(await send<MarginView>(this.url, body));
      }
      this.sentence = '';
      const now = editsIn(this.state);
      this.dispatch(dropSteps(this.state, (no) => sent.includes(now[no]?.edit)).change);
    } catch (error) {
      this.sentence = `${error instanceof Error ? error.message : ''} What you wrote is still here.`;
    } finally {
      this.busy = false;
      this.sent = [];
    }
  }

  private get url() {
    return `/pages/${this.start.session.page}/proposals`;
  }
  private bodyOf(proposals: readonly { steps: readonly { toJSON(): unknown }[] }[]) {
    return {
      version: versionOf(this.state),
      proposals: proposals.map(({ steps }) => ({ steps: steps.map((step) => step.toJSON()) })),
      keptBack: this.start.keptBack(),
    };
  }

  /** The page is closed or left: what is written is proposed on the way out. */
  sendAway(): void {
    const edits = editsIn(this.state);
    const proposals = this.groupsIn(this.state).filter(
      ({ of, steps }) => steps.length > 0 && !of.some((no) => this.sent.includes(edits[no]?.edit)),
    );
    if (proposals.length === 0) return;
    void fetch(this.url, {
      method: 'POST',
      keepalive: true,
      body: JSON.stringify(this.bodyOf(proposals)),
      headers: { 'content-type': 'application/json', ...personHeader() },
    }).catch(() => undefined);
  }

  /** Another manner of writing is chosen. @returns whether all is proposed */
  async close(): Promise<boolean> {
    await this.settle(true);
    const left = editsIn(this.state).length > 0;
    if (!left) this.end();
    return !left;
  }

  end(): void {
    if (this.timer) clearTimeout(this.timer);
    this.stopHearing();
    this.show = () => undefined;
  }

  /** What is written and not proposed yet: what came in is marked, what went is shown struck. */
  private drawn(state: EditorState): DecorationSet {
    const edits = editsIn(state);
    if (edits.length === 0) return DecorationSet.empty;
    const maps = edits.map(({ step }) => step.getMap());
    const came = changedRanges(maps.map((map) => ({ map, counts: true }))).flatMap(
      ({ from, to }) => (from < to ? [Decoration.inline(from, to, { class: 'proposed-in' })] : []),
    );
    const page = this.start.session.loggedPage;
    const over = new Mapping(maps);
    const went = this.groupsIn(state).flatMap(({ steps }) =>
      offerOf(page, steps).takesOut.map(({ from, to }) =>
        Decoration.widget(over.map(from, -1), () => struck(page.textBetween(from, to, ' ')), {
          side: -1,
          key: `went ${from} ${to}`,
          ignoreSelection: true,
        }),
      ),
    );
    return DecorationSet.create(state.doc, [...came, ...went]);
  }
}

function struck(text: string): HTMLElement {
  const gone = document.createElement('del');
  gone.className = 'proposed-out';
  gone.textContent = text;
  return gone;
}
