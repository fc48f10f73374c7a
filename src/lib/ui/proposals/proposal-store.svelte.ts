import type { EditorState } from 'prosemirror-state';
import type { StepMap } from 'prosemirror-transform';
import type { EditorView } from 'prosemirror-view';
import type { MarginView } from '$core/copy/threads';
import { offerFromJson, type ProposalView } from '$core/proposals/proposal';
import type { LoggedChange, PageSession } from '../page/page-session.svelte';
import { placeOffers, type Placed, type Standing } from './place-offers';
import { proposalMarks } from './proposal-marks';

const NOTHING: Placed = { version: 0, offers: [], since: [] };

/** The proposals in a copy: how each stands, and where, while the page is written on. */
export class ProposalStore {
  all: ProposalView[] = $state.raw([]);
  chosen: string | null = $state(null);
  private placed: Placed = $state.raw(NOTHING);
  /** What the log took in since this store was made, by version. */
  private logged: { version: number; map: StepMap }[] = [];
  private drawn: { state: EditorState; placed: Placed; standing: Standing[] } | null = null;
  readonly open = $derived(this.all.filter(({ state }) => state === 'open'));
  readonly decided = $derived(this.all.filter(({ state }) => state !== 'open'));

  /** @param readAgain asks for the margin anew */
  constructor(
    private readonly session: PageSession,
    private readonly readAgain: () => void,
  ) {
    this.stop = session.onLogged((changes) => this.heard(changes));
  }
  readonly stop: () => void;

  /** Whether it has its place in the page: otherwise its words are gone, or others. */
  hasPlace(id: string): boolean {
    return this.standingIn(this.session.state).some((one) => one.id === id);
  }

  take({ version, proposals }: MarginView): void {
    this.all = proposals;
    this.logged = this.logged.filter((change) => change.version > version);
    this.placed = {
      version,
      offers: proposals.flatMap(({ id, offer }) =>
        offer ? [{ id, offer: offerFromJson(offer) }] : [],
      ),
      since: this.logged.map(({ map }) => map),
    };
  }

  private heard(changes: readonly LoggedChange[]): void {
    const last = this.logged.at(-1)?.version ?? this.placed.version;
    const fresh = changes.filter(({ version }) => version > last);
    if (fresh.length === 0) return;
    // Some were missed: the margin of now says where everything stands.
    if (fresh[0]?.version !== last + 1) return this.readAgain();
    this.logged.push(...fresh.map(({ version, step }) => ({ version, map: step.getMap() })));
    this.placed = { ...this.placed, since: this.logged.map(({ map }) => map) };
  }

  /** Where the open ones stand in an editor of this page. */
  standingIn(state: EditorState): Standing[] {
    const { drawn, placed } = this;
    if (drawn?.state === state && drawn.placed === placed) return drawn.standing;
    const standing = placeOffers(placed, state) ?? [];
    this.drawn = { state, placed, standing };
    return standing;
  }

  /** Shows them in an editor, from now on. */
  drawIn(view: EditorView): void {
    const choose = (id: string) => {
      this.chosen = id;
      document.getElementById(`proposal-${id}`)?.scrollIntoView({ block: 'nearest' });
      this.redraw(view);
    };
    const marks = proposalMarks(
      (state) => this.standingIn(state),
      () => this.chosen,
      choose,
    );
    if (!view.isDestroyed) view.setProps({ plugins: [marks] });
  }

  redraw(view: EditorView): void {
    if (!view.isDestroyed) view.updateState(view.state);
  }
}
