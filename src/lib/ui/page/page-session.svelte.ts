import { keymap } from 'prosemirror-keymap';
import { Node } from 'prosemirror-model';
import { EditorState, type Command, type Plugin, type Transaction } from 'prosemirror-state';
import { Mapping, Step } from 'prosemirror-transform';
import { moveAnchor, type Anchor } from '$core/history/anchor';
import { bringUpToDate } from '$core/history/rebase';
import {
  dropFirst,
  endOfStep,
  receive,
  unsentCount,
  unsentIn,
  unsentSteps,
  versionOf,
} from '$core/history/unsent-steps';
import { fingerprint } from '$core/page/fingerprint';
import { doneMask, partsOf } from '$core/page/parts';
import type { NewSteps } from '$core/live/news';
import type { OwnSitting } from '$core/history/own-sitting';
import type { PageNews, SetAsideText } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import { backOff } from '../back-off';
import { serverNow } from '../server-time';
import { outbox, type Sender } from '../outbox/outbox';
import type { Editing } from './editing';
import { asJson, askPage, Refused, type Fetch } from './ask';
import { undoOr } from './undo-or';
import {
  carryOn,
  forgetKept,
  keepRefused,
  saveUnsent,
  keptTexts,
  NO_PAGE_TAKES_IT,
  holdVisit,
  type KeptText,
  type LeftoversSent,
  type Unsent,
} from '../outbox/leftover';
import { keepPage, leftOf, readKeptPage } from '../outbox/without-network';

/**
 * How the words on a page stand: with the server; on their way; kept in this browser while the server is away, or while
 * nobody is signed in; or refused as a whole, because this person may not write here now.
 */
export type SaveState = 'saved' | 'saving' | 'away' | 'signed out' | 'refused';

/** Where somebody else's editor has just written, in the page as it stands here. */
export interface OthersPlace {
  client: string;
  at: number;
}

/** A step that the log took in, with the version that it made. */
export interface LoggedChange {
  version: number;
  step: Step;
}

/** Something is to be done with a page whose words are not saved yet. */
export class NotSaved extends Error {}

/** Typing is gathered this long before it is sent, in milliseconds. */
const GATHER = 300;
/** Where others write, too, they see it sooner. */
const GATHER_TOGETHER = 100;
/** Others write, too, when they did so within the last milliseconds. */
const TOGETHER = 20_000;
/** A long absence is sent in pieces of this many steps. */
const STEPS_PER_REQUEST = 500;
/** Something may wait so long for words to be saved, in milliseconds; a slow network takes its time. */
const LONGEST_FLUSH = 60_000;
/** A page that changed is kept in this browser so much later, in milliseconds. */
const KEEP_AFTER = 5000;
/** Leftovers of earlier visits are tried again this much later, in milliseconds. */
const TRY_LEFTOVERS = 2000;

export interface SessionStart {
  page: string;
  version: number;
  doc: object;
  plugins: Plugin[];
  /** Words of this person that were set aside before. */
  setAside: SetAsideText[];
  /** How to reach the server, where it is not the browser's own way. */
  fetch?: Fetch;
  /** The earlier visit that this one goes on with, and the number of its next step. */
  goesOn?: { client: string; first: number };
}

/**
 * One open page: its editor state, and the talk with the server about it. Local changes are shown at once, kept in
 * IndexedDB, sent as steps; the server's answer brings both sides to the same page. One request runs at a time.
 */
export class PageSession implements Sender, Editing {
  readonly page: string;
  client: string;
  state: EditorState = $state.raw(EditorState.create({ schema }));
  /** Whether this person may only read: the caret moves, words can be selected, nothing changes. */
  reading = $state(false);
  save: SaveState = $state('saved');
  savedAt: number | null = $state(null);
  /** Whether what is unsent is being kept in this browser. */
  isKeeping = $state(false);
  /** This browser could not keep what is unsent: its store is full, or shut. */
  keepsNothing = $state(false);
  /** Why the server said no, or what became of earlier words; for the person. */
  sentence: string | null = $state(null);
  setAside: SetAsideText[] = $state([]);
  kept: KeptText[] = $state([]);
  readonly parts = $derived(partsOf(this.state.doc));
  readonly mask = $derived(doneMask(this.parts));
  /** Called when a state from outside must be shown by the editor. */
  show: (state: EditorState) => void = () => undefined;

  /** Told of every change, with where others wrote. */
  watch: ((change: Transaction, others: readonly OthersPlace[]) => void) | null = null;

  /** The last change is undone; when none of this visit is left, those of the sitting before it. */
  readonly undo: Command = undoOr(
    () => this.mayReachBack && !this.reading,
    () => void this.undoEarlier(),
  );
  /** Whether there may be an earlier sitting, for undo to go on with. */
  private mayReachBack = $state(false);
  /** The version that this visit began with. */
  private begunAt = 0;
  private readonly logListeners: ((changes: readonly LoggedChange[]) => void)[] = [];
  private readonly fetch: Fetch;
  private taken = 0;
  /** Where others wrote in the change that is being taken in. */
  private wrote: readonly OthersPlace[] = [];
  /** The page at the log's version, without what is unsent. */
  private logged: Node;
  /** Unsent steps whose place was gone when others' steps came in; they go to the server to be set aside. */
  private lost: Step[] = [];
  private readonly plugins: Plugin[];
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  /** The newest version that we heard of; more than ours when there is something to ask for. */
  private heard = 0;
  /** What was told unasked while something was on its way. */
  private told: NewSteps[] = [];
  private keepTimer: ReturnType<typeof setTimeout> | null = null;
  /** When others' steps last came in, by this machine's clock. */
  private othersAt = 0;
  /** Some of the unsent steps are refused, and are looked for. */
  private searching = false;
  /** So many are sent at once: fewer while those are looked for that are refused. */
  private most = STEPS_PER_REQUEST;
  private closed = false;
  /** Tries in a row that came to nothing. */
  private failures = 0;
  /** What is kept in this browser now. */
  private keeping: Promise<void> | null = null;
  private leaveOutbox: () => void = () => undefined;
  private endVisit: () => void = () => undefined;

  constructor(start: SessionStart) {
    this.page = start.page;
    this.plugins = start.plugins;
    this.fetch = start.fetch ?? ((url, init) => fetch(url, init));
    this.setAside = start.setAside;
    this.client = start.goesOn?.client ?? crypto.randomUUID().slice(0, 18);
    this.taken = (start.goesOn?.first ?? 1) - 1;
    this.logged = Node.fromJSON(schema, start.doc);
    this.begin(this.logged, start.version);
  }

  private begin(doc: Node, version: number) {
    const plugins = [keymap({ 'Mod-z': this.undo }), ...this.plugins, unsentSteps(version)];
    this.begunAt = version;
    this.mayReachBack = version > 0;
    this.logged = doc;
    this.state = EditorState.create({ doc, plugins });
    this.show(this.state);
  }

  get hasUnsent(): boolean {
    return this.lost.length > 0 || unsentCount(this.state) > 0;
  }

  /** What is to be sent next, as the server takes it; null when there is nothing. */
  private unsent(most = Infinity): Unsent | null {
    if (!this.hasUnsent) return null;
    const steps = unsentIn(this.state).slice(0, most);
    return {
      base: this.version,
      client: this.client,
      first: this.taken + 1,
      lost: this.lost.map((step) => step.toJSON()),
      steps: steps.map(({ step, follows, pasted }) => ({
        ...step.toJSON(),
        ...(follows && { follows }),
        ...(pasted && { pasted }),
      })),
    };
  }

  /**
   * The page is open: what is unsent is in this browser's outbox, and what is new is asked for.
   * @param sendLeftovers sends what earlier visits left of this page; by itself it imports this session
   */
  async start(
    sendLeftovers: (fetch: Fetch, page: string) => Promise<LeftoversSent>,
  ): Promise<void> {
    if (!globalThis.indexedDB) return;
    this.leaveOutbox = outbox.add(this);
    this.endVisit = holdVisit(this.page, this.client);
    for (let later = true; later && !this.closed;) {
      // A browser that keeps nothing (a private window) has nothing left over.
      const sent = await sendLeftovers(this.fetch, this.page).catch(() => null);
      later = sent?.later ?? false;
      this.sentence = sent?.sentence ?? this.sentence;
      this.kept = await keptTexts(this.page).catch(() => []);
      await this.hear();
      if (this.failures > 0) await this.goOnWithoutNetwork().catch(() => undefined);
      if (later) await new Promise((resolve) => setTimeout(resolve, TRY_LEFTOVERS));
    }
  }

  /**
   * Opened without a network the page may be older than what this browser knows; and this visit goes on with what the one
   * before it left, under its name: the server knows a repeat by it.
   */
  private async goOnWithoutNetwork() {
    const kept = await readKeptPage(this.page);
    if (this.hasUnsent || this.taken > 0) return;
    if (kept && kept.version > this.version)
      this.begin(Node.fromJSON(schema, kept.doc), kept.version);
    const left = await leftOf(this.page);
    if (left.length === 0 || this.hasUnsent) return;
    // What is of another version waits for the network, unseen.
    this.save = 'away';
    const own = left.findLast(({ base }) => base === this.version);
    if (!own) return;
    this.endVisit();
    this.client = own.client;
    this.endVisit = holdVisit(this.page, this.client);
    this.taken = own.first - 1;
    this.lost = own.lost.map((step) => Step.fromJSON(schema, step));
    this.redo(own.steps);
  }

  /** Does steps of an earlier visit again, as its own. */
  redo(steps: Unsent['steps']): void {
    for (const step of steps) {
      const change = this.state.tr.step(Step.fromJSON(schema, step));
      this.dispatch(step.pasted ? change.setMeta('uiEvent', 'paste') : change);
    }
  }

  /** Keeps the page, which the server has just told of, to be opened without a network. */
  private keepSoon() {
    this.keepTimer ??= setTimeout(() => void this.keepNow(), KEEP_AFTER);
  }

  /** Keeps at once what was to be kept soon. */
  private async keepNow(): Promise<void> {
    if (!this.keepTimer) return;
    clearTimeout(this.keepTimer);
    this.keepTimer = null;
    const kept = { version: this.version, doc: this.logged.toJSON(), at: serverNow() };
    await keepPage(this.page, kept).catch(() => undefined);
  }

  /** The page as the log has it, without what is unsent. */
  get loggedPage(): Node {
    return this.logged;
  }

  /** Tells of what the log takes in, before the editor shows it. @returns what ends it */
  onLogged(tell: (changes: readonly LoggedChange[]) => void): () => void {
    this.logListeners.push(tell);
    return () => void this.logListeners.splice(this.logListeners.indexOf(tell), 1);
  }

  get version(): number {
    return versionOf(this.state);
  }

  dispatch = (transaction: Transaction): void => {
    const fromOutside = transaction.getMeta('rebased') !== undefined;
    if (this.reading && transaction.docChanged && !fromOutside) return this.show(this.state);
    const { state, transactions } = this.state.applyTransaction(transaction);
    this.state = state;
    this.watch?.(transaction, this.wrote);
    this.wrote = [];
    this.show(state);
    if (!transactions.some((one) => one.docChanged) || !this.hasUnsent) return;
    void this.saveUnsent();
    if (this.save === 'saved') this.save = 'saving';
    this.talkIn(Date.now() - this.othersAt < TOGETHER ? GATHER_TOGETHER : GATHER);
  };

  /** There is news of this page up to `version`, and these may be its steps; without a version, there may be news. */
  hear = async (version = Infinity, steps: NewSteps | null = null): Promise<void> => {
    this.heard = Math.max(this.heard, version);
    if (steps) this.told.push(steps);
    if (!this.busy) this.takeTold();
    if (this.heard > this.version) await this.talk();
  };

  /** Takes in what was told unasked: what follows our version, and is none of our own, of which the answer tells. */
  private takeTold() {
    for (const { base, steps } of this.told.splice(0)) {
      const fresh = steps.slice(Math.max(0, this.version - base));
      const isNext = base <= this.version && fresh.length > 0;
      if (!isNext || fresh.some(({ client }) => client === this.client)) continue;
      const version = base + steps.length;
      this.receive({ base, version, steps, fingerprint: null, setAside: [] });
    }
  }

  /** Sends now what is unsent. Resolves when the server has it. @throws when it could not be sent */
  async flush(): Promise<void> {
    for (const until = Date.now() + LONGEST_FLUSH; this.hasUnsent;) {
      await this.talk();
      const stands = this.save === 'saved' || this.save === 'saving';
      if (!stands || this.closed || Date.now() > until)
        throw new NotSaved(this.sentence ?? 'Not saved yet.');
      if (this.busy) await new Promise((resolve) => setTimeout(resolve, 30));
    }
  }

  private async undoEarlier() {
    this.mayReachBack = false;
    const way = `/pages/${this.page}/own-sitting?before=${this.begunAt}`;
    try {
      // Few need it: it comes when it is first asked for.
      const { undoEarlier } = await import('./undo-earlier');
      await undoEarlier(this, () => askPage<OwnSitting | null>(this.fetch, way));
    } catch (error) {
      this.mayReachBack = true;
      const known = error instanceof Refused || error instanceof NotSaved;
      this.sentence = known
        ? error.message
        : 'There is no connection, so what you did before this visit cannot be undone now.';
    }
  }

  sendAway(): void {
    const message = this.save === 'refused' ? null : this.unsent(STEPS_PER_REQUEST);
    // Whether it arrives or not, the next visit sends it again; the server knows a repeat by its numbers.
    if (message)
      void this.fetch(`/pages/${this.page}/steps`, asJson(message)).catch(() => undefined);
  }

  /** The view is left. What is unsent is sent all the same; what cannot be sent now is left to the outbox. */
  close(): void {
    this.show = () => undefined;
    void this.flush()
      .catch(() => undefined)
      .finally(() => {
        this.closed = true;
        if (this.timer) clearTimeout(this.timer);
        void this.keepNow();
        this.leaveOutbox();
        this.endVisit();
      });
  }

  private async saveUnsent(): Promise<void> {
    const keeping = saveUnsent(this.page, this.client, () => this.unsent());
    this.keeping = keeping;
    this.isKeeping = true;
    this.keepsNothing = await keeping.then(
      () => false,
      () => true,
    );
    if (this.keeping === keeping) this.isKeeping = false;
  }

  /** Kept words were put back, or are not wanted any more. */
  async forget(key: string): Promise<void> {
    await forgetKept(key);
    this.kept = this.kept.filter((entry) => entry.key !== key);
  }

  /** The network is back: nothing is waited for any longer. */
  hurry = (): void => {
    if (this.failures === 0) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    void this.talk();
  };

  private talkIn(milliseconds: number) {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      void this.talk();
    }, milliseconds);
  }

  private async talk(): Promise<void> {
    if (this.busy || this.closed) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.busy = true;
    let again: number | null = null;
    try {
      const message = this.save === 'refused' ? null : this.unsent(this.most);
      if (message) {
        const news = await askPage<PageNews>(this.fetch, `/pages/${this.page}/steps`, message);
        this.receive(news, message.first + message.lost.length, message.steps.length);
        // Only now: what receiving adds to the lost stands behind those that were sent.
        this.lost = this.lost.slice(message.lost.length);
        this.taken += message.lost.length + message.steps.length;
        this.setAside = [...this.setAside, ...news.setAside];
        if (!this.searching) this.sentence = null;
        this.most = Math.min(this.most * 2, STEPS_PER_REQUEST);
      } else if (this.heard > this.version) {
        this.heard = 0;
        this.receive(
          await askPage<PageNews>(this.fetch, `/pages/${this.page}/steps?since=${this.version}`),
        );
      }
      this.failures = 0;
      const left = this.hasUnsent;
      this.searching &&= left;
      if (this.save !== 'refused') this.save = left ? 'saving' : 'saved';
      if (!left) this.savedAt = serverNow();
      this.keepSoon();
      this.takeTold();
      // What is typed next goes out, however slow this browser is to keep.
      void this.saveUnsent();
      if ((this.hasUnsent && this.save !== 'refused') || this.heard > this.version) again = 0;
    } catch (error) {
      // What is said to be kept is kept by then, and the page that it belongs to.
      await this.keepNow();
      await this.saveUnsent();
      again = this.failed(error);
    } finally {
      this.busy = false;
    }
    if (again !== null && !this.closed) this.talkIn(again);
  }

  /** @returns after how many milliseconds to try again; null for never */
  private failed(error: unknown): number | null {
    const status = error instanceof Refused ? error.status : null;
    if (error instanceof Refused && status !== 401) {
      this.sentence = error.message;
      if (NO_PAGE_TAKES_IT.includes(error.status) && unsentCount(this.state) > 0)
        return this.searchRefused();
      if (this.hasUnsent) this.save = 'refused';
      return null;
    }
    if (this.hasUnsent) this.save = status === 401 ? 'signed out' : 'away';
    else this.heard = Infinity;
    return backOff(++this.failures);
  }

  /** Of several steps the refused one is found by sending half as many; that one is taken out, and its words are kept. */
  private searchRefused(): number {
    const sent = Math.min(this.most, unsentCount(this.state));
    const message = this.unsent(1);
    this.searching = true;
    if (sent > 1 || !message) {
      this.most = Math.floor(sent / 2) || 1;
      return 0;
    }
    // What was lost before goes with it: nothing of it stands on the page.
    const lost = this.lost.splice(0);
    const { change, gone } = dropFirst(this.state);
    this.dispatch(change);
    const steps = [...lost, ...gone].map((step) => step.toJSON());
    void keepRefused(this.page, { ...message, lost: [], steps })
      .then(async () => (this.kept = await keptTexts(this.page)))
      .catch(() => undefined);
    if (!this.hasUnsent) this.save = 'saved';
    void this.saveUnsent();
    return 0;
  }

  /** After a refusal that no longer holds (a copy was taken back), what is unsent is tried again. */
  tryAgain(): void {
    if (this.save !== 'refused') return;
    this.save = 'saving';
    this.sentence = null;
    void this.talk();
  }

  /**
   * The page takes nothing more from this person: what is unsent goes on to what they were given instead.
   * @returns that page; null when there is none @throws Refused, or another error when it may be tried again
   */
  async carryOn(): Promise<string | null> {
    const message = this.unsent();
    const nothing = { base: this.version, client: this.client, first: 1, lost: [], steps: [] };
    const to = await carryOn(this.fetch, this.page, message ?? nothing);
    if (!to || !message) return to;
    this.taken += message.lost.length + message.steps.length;
    this.lost = [];
    while (unsentCount(this.state) > 0) this.dispatch(dropFirst(this.state).change);
    this.save = 'saved';
    this.sentence = null;
    await this.saveUnsent();
    return to;
  }

  /**
   * Takes in the log since our version, as runs of others' steps and of our own.
   * @param first our number for the first unsent step
   * @param sent how many of the unsent steps this answers; the server itself sets those aside
   */
  private receive(news: PageNews, first = this.taken + 1, sent = 0) {
    const known = Math.max(0, this.version - news.base);
    const steps = news.steps
      .slice(known)
      .map(({ step, client, no }) => ({ step: Step.fromJSON(schema, step), client, no }));
    const numbered = unsentIn(this.state).map((one, index) => ({ ...one, no: first + index }));
    const { setAside } = bringUpToDate(this.logged, numbered, steps, this.client);
    this.lost.push(...setAside.filter(({ no }) => no >= first + sent).map(({ step }) => step));
    for (const { step } of steps) this.logged = step.apply(this.logged).doc ?? this.logged;
    const before = news.base + known;
    const changes = steps.map(({ step }, index) => ({ version: before + index + 1, step }));
    for (const tell of this.logListeners) tell(changes);

    let run: typeof steps = [];
    const flush = () => {
      if (run.length === 0) return;
      const parsed = run.map(({ step }) => step);
      const own = run[0]?.client === this.client ? run.length : 0;
      if (own === 0) this.othersAt = Date.now();
      const waiting = unsentCount(this.state);
      const change = receive(this.state, parsed, own);
      // What waits is undone first, and done again behind theirs.
      if (own === 0)
        this.wrote = run.map(({ client, step }, index) => ({
          client,
          at: change.mapping.slice(waiting + index + 1).map(endOfStep(step), -1),
        }));
      this.dispatch(change);
      run = [];
    };
    for (const entry of steps) {
      const last = run.at(-1);
      if (last && (last.client === this.client) !== (entry.client === this.client)) flush();
      run.push(entry);
    }
    flush();
    const differs =
      news.fingerprint !== null &&
      this.version === news.version &&
      !this.hasUnsent &&
      news.fingerprint !== fingerprint(this.state.doc);
    if (differs) void this.adoptServerPage();
  }

  /** Our page is not the server's, which should not happen: the server's is right, and the log hears of it. */
  private async adoptServerPage() {
    const answer = await this.fetch(`/pages/${this.page}?because=differs`);
    if (!answer.ok) return;
    const { doc, version } = await answer.json();
    if (this.hasUnsent) return;
    this.begin(Node.fromJSON(schema, doc), version);
  }

  /** Moves places of a version of the log to the page as it stands here; null when that is another version. */
  placesNow<Place extends Anchor>(version: number, places: readonly Place[]): Place[] | null {
    if (version !== this.version) return null;
    const unsent = new Mapping(unsentIn(this.state).map(({ step }) => step.getMap()));
    return places.map((place) => ({ ...place, ...moveAnchor(place, unsent) }));
  }

  /** Where the cursor is at the server's version; null while something is not saved yet. */
  cursorPlace(): { at: number; version: number } | null {
    if (unsentCount(this.state) > 0) return null;
    return { at: this.state.selection.head, version: this.version };
  }

  /** The selected words at the server's version, for a thread to be tied to; null when they are not saved yet. */
  selectedPlace(): (Anchor & { version: number }) | null {
    const { from, to, empty } = this.state.selection;
    if (empty || unsentCount(this.state) > 0) return null;
    return { from, to, version: this.version };
  }
}
