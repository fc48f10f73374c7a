import { oneAtATime } from '$ui/one-at-a-time';
import type { PageSession } from '$ui/page/page-session.svelte';
import { fetchJson, Refusal } from '$ui/send';
import { serverNow } from '$ui/server-time';
import type { PageData } from './$types';

type Standing = PageData['standing'];
const shown = ({ assignment, copy }: Standing) => ({
  ...assignment,
  facts: copy.facts,
  each: copy.each !== null,
});

/**
 * How a student's open copy stands. It is read by itself, not with the view: a view that is read again while the server is
 * away would be lost.
 */
export class OwnStanding {
  now: Standing = $state.raw() as Standing;
  /** The page is out of its student's sight. */
  gone = $state(false);
  /** What the student was given instead. */
  instead: string | null = $state(null);
  /** What changed while the page was open. */
  news: string[] = $state([]);

  constructor(
    begin: Standing,
    private readonly session: PageSession,
    private readonly timeZone: string,
  ) {
    this.now = begin;
    if (begin.copy.replaced) void this.lookForAnother();
  }

  private readonly look = oneAtATime(async () => {
    try {
      const is = await fetchJson<Standing>(`/pages/${this.session.page}/standing`);
      if (JSON.stringify(shown(is)) !== JSON.stringify(shown(this.now))) {
        const { sayWhatChanged } = await import('$core/copy/standing');
        const says = sayWhatChanged(shown(this.now), shown(is), serverNow(), this.timeZone);
        this.news = [...this.news.filter((one) => !says.includes(one)), ...says];
      }
      this.now = is;
      this.gone = false;
    } catch (error) {
      if (!(error instanceof Refusal) || error.status !== 404) return;
      this.gone = true;
    }
    if (this.gone || this.now.copy.replaced) await this.lookForAnother();
    else this.instead = null;
  });

  private async lookForAnother() {
    this.instead = await this.session.carryOn().catch(() => null);
  }

  /** The server refused what was written: the copy stands differently. */
  refused = (): Promise<void> => this.look();

  /** Something changed: what was refused before may be taken now. */
  heard = async (): Promise<void> => {
    await this.look();
    if (!this.gone && this.now.mayWork) this.session.tryAgain();
  };
}
