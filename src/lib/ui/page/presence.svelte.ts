import type { EditorView } from 'prosemirror-view';
import { SvelteMap } from 'svelte/reactivity';
import { live } from '../live.svelte';
import { asJson } from './ask';
import { OtherCursors } from './other-cursors';
import type { PageSession } from './page-session.svelte';

/** Whoever is in a page says so this often, in milliseconds; who did not say so for twice as long has gone. */
const SAYS_SO = 25_000;
const GONE = 2 * SAYS_SO + 5000;
/** Where a cursor goes without writing is told at most this often, in milliseconds; more seldom where many are. */
const MOVES = 500;
const MANY = 8;

/** Who else has a page open, of those who may write in it, and where in it they are. */
export class Presence {
  private readonly seen = new SvelteMap<string, { name: string; at: number }>();
  readonly names = $derived([...this.seen.values()].map(({ name }) => name).sort());
  private cursors: OtherCursors | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** The place that was told last. */
  private told = -1;

  constructor(
    private readonly session: PageSession,
    private readonly me: string,
  ) {}

  private say(here: boolean) {
    const { page, client } = this.session;
    const cursor = here ? this.session.cursorPlace() : null;
    this.told = cursor?.at ?? this.told;
    void fetch(`/pages/${page}/here`, asJson({ here, client, cursor })).catch(() => undefined);
  }

  /** The cursor may have moved. Where somebody writes is told by their steps. */
  moved(): void {
    if (this.seen.size === 0) return;
    const wait = this.seen.size > MANY ? MOVES * 4 : MOVES;
    this.timer ??= setTimeout(() => {
      this.timer = null;
      const cursor = this.session.cursorPlace();
      if (cursor && cursor.at !== this.told) this.say(true);
    }, wait);
  }

  /** Shows the others' cursors in an editor. @returns what ends it */
  drawIn(view: EditorView): () => void {
    const cursors = new OtherCursors(this.session, view);
    this.cursors = cursors;
    return () => cursors.close();
  }

  /** @returns what leaves the page */
  enter(): () => void {
    this.say(true);
    const stop = live.hear((heard) => {
      if (heard === 'resync') return;
      for (const news of heard) {
        if (news.kind !== 'here' || news.page !== this.session.page) continue;
        const { person, name, client, cursor } = news;
        if (person === this.me) continue;
        // Who comes in is answered, so that they know of us.
        if (news.here && !this.seen.has(person)) this.say(true);
        if (news.here) {
          this.seen.set(person, { name, at: Date.now() });
          this.cursors?.here(client, { person, name }, cursor);
        } else this.leaves(person);
      }
    });
    const timer = setInterval(() => {
      this.say(true);
      for (const [person, { at }] of this.seen) if (Date.now() - at > GONE) this.leaves(person);
    }, SAYS_SO);
    const leave = () => this.say(false);
    addEventListener('pagehide', leave);
    return () => {
      stop();
      clearInterval(timer);
      if (this.timer) clearTimeout(this.timer);
      removeEventListener('pagehide', leave);
      leave();
    };
  }

  private leaves(person: string) {
    this.seen.delete(person);
    this.cursors?.gone(person);
  }
}
