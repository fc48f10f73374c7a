import { Node } from 'prosemirror-model';
import type { Range } from '$core/history/compare';
import type { PageHistory } from '$core/history/page-history';
import { schema } from '$core/page/schema';
import { fetchJson, send } from '../send';
import { confirmDone } from '../shell/toasts.svelte';
import { MomentMaker, Moments, type Moment } from './moments';
import { Player } from './player.svelte';

/** What is shown of a page's past. */
export type Shown = 'page' | 'who' | 'changes';

const KEPT = 'How it was before is kept on the line.';

/** One page's history, looked through: which moment is shown, what it is compared with, and what is put back. */
export class LookingBack {
  history: PageHistory | null = $state.raw(null);
  /** The moment that is shown, or is being read. */
  version = $state(0);
  moment: Moment | null = $state.raw(null);
  shown: Shown = $state<Shown>('page');
  trouble = $state('');
  busy = $state(false);
  /** What it is compared with: another moment of this page, or another copy as it stands now, by its page. */
  against = $state(0);
  copy = $state('');
  private other: Moment | null = $state.raw(null);

  readonly page = $derived(this.moment && Node.fromJSON(schema, this.moment.doc));
  readonly isNow = $derived(this.version === this.history?.version);
  /** The ends of what is compared, on the line. */
  readonly ends = $derived<[number, number] | null>(
    this.shown === 'changes' && !this.copy
      ? [Math.min(this.against, this.version), Math.max(this.against, this.version)]
      : null,
  );
  /** What is compared: of this page the earlier moment comes first, otherwise the other copy. */
  readonly pair = $derived.by(() => {
    const { moment, other, copy } = this;
    if (this.shown !== 'changes' || !moment || !other) return null;
    return !copy && other.version > moment.version
      ? { was: moment, is: other }
      : { was: other, is: moment };
  });

  readonly maker = new MomentMaker();
  readonly player = new Player(
    (from) => this.moments.timesFrom(from),
    (version) => this.show(version),
  );
  private moments: Moments;
  private others: Moments;

  /**
   * @param way where its history is asked for
   * @param flush what has to be saved before the page is put back
   */
  constructor(
    private readonly way: string,
    private readonly flush: () => Promise<unknown>,
  ) {
    this.moments = new Moments(way, this.maker);
    this.others = new Moments(way, this.maker);
  }

  private async tried(deed: () => Promise<void>): Promise<void> {
    try {
      await deed();
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : '';
    }
  }

  read = (): Promise<void> =>
    this.tried(async () => {
      const history = await fetchJson<PageHistory>(`${this.way}/history`);
      this.moments = new Moments(this.way, this.maker);
      if (!this.copy) this.others = new Moments(this.way, this.maker);
      this.history = history;
      this.against = Math.max(this.against, history.first);
      await this.show(history.version);
    });

  /** Shows a moment; who dragged on meanwhile sees the later one. */
  show = (version: number): Promise<void> =>
    this.tried(async () => {
      this.version = version;
      this.moment = (await this.moments.at(version)) ?? this.moment;
      this.trouble = '';
    });

  private readOther = (version: number): Promise<void> =>
    this.tried(async () => {
      this.other = (await this.others.at(version)) ?? this.other;
      this.trouble = '';
    });

  /** Somebody chose a moment by hand. */
  choose(version: number): void {
    this.player.stop();
    void this.show(version);
  }

  choosesWhat(shown: Shown): void {
    this.player.stop();
    this.shown = shown;
    if (shown === 'changes' && !this.other) void this.readOther(this.against);
  }

  play(): void {
    const { player, history } = this;
    if (player.playing) player.stop();
    else if (history) void this.tried(() => player.play(this.version, history));
  }

  moveEnds([from, to]: readonly [number, number]): void {
    if (from !== this.against) void this.readOther((this.against = from));
    if (to !== this.version) void this.show(to);
  }

  /** @param what a version of this page, or another copy's page */
  compareWith(what: string): void {
    const mate = this.history?.others.find(({ page }) => page === what);
    this.copy = mate?.page ?? '';
    this.others = new Moments(mate ? `/pages/${mate.page}` : this.way, this.maker);
    this.other = null;
    if (!mate) this.against = Number(what);
    void this.readOther(mate?.version ?? this.against);
  }

  private async ask(body: object, says: string): Promise<void> {
    this.busy = true;
    await this.tried(async () => {
      await this.flush();
      await send(`${this.way}/history`, body);
      await this.read();
      await confirmDone(says);
    });
    this.busy = false;
  }

  /** @param passage of the page at that version; null for all of it */
  putBack(version: number, passage: Range | null = null, what = 'The passage'): Promise<void> {
    const range = passage && { from: passage.from, to: passage.to };
    return this.ask(
      { move: 'put back', version, passage: range },
      `${range ? what : 'The page'} is put back. ${KEPT}`,
    );
  }

  /** @returns whether the version that is shown has the name now */
  async giveName(name: string): Promise<boolean> {
    const { version } = this;
    await this.ask({ move: 'name', version, name }, 'The version is named.');
    if (this.trouble) return false;
    await this.show(version);
    return true;
  }

  close(): void {
    this.player.stop();
    this.maker.close();
  }
}
