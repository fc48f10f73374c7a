import { SvelteMap } from 'svelte/reactivity';
import { live } from '../live.svelte';
import { asJson } from './ask';

/** Whoever is in a page says so this often, in milliseconds; who did not say so for twice as long has gone. */
const SAYS_SO = 25_000;
const GONE = 2 * SAYS_SO + 5000;

/** Who else has a page open, of those who may write in it. */
export class Presence {
  private readonly seen = new SvelteMap<string, { name: string; at: number }>();
  readonly names = $derived([...this.seen.values()].map(({ name }) => name).sort());

  constructor(
    private readonly page: string,
    private readonly me: string,
  ) {}

  private say(here: boolean) {
    void fetch(`/pages/${this.page}/here`, asJson({ here })).catch(() => undefined);
  }

  /** @returns what leaves the page */
  enter(): () => void {
    this.say(true);
    const stop = live.hear((heard) => {
      if (heard === 'resync') return;
      for (const news of heard) {
        if (news.kind !== 'here' || news.page !== this.page || news.person === this.me) continue;
        // Who comes in is answered, so that they know of us.
        if (news.here && !this.seen.has(news.person)) this.say(true);
        if (news.here) this.seen.set(news.person, { name: news.name, at: Date.now() });
        else this.seen.delete(news.person);
      }
    });
    const timer = setInterval(() => {
      this.say(true);
      for (const [person, { at }] of this.seen)
        if (Date.now() - at > GONE) this.seen.delete(person);
    }, SAYS_SO);
    const leave = () => this.say(false);
    addEventListener('pagehide', leave);
    return () => {
      stop();
      clearInterval(timer);
      removeEventListener('pagehide', leave);
      leave();
    };
  }
}
