import { send } from '$ui/send';

interface Look {
  page: string;
  /** When what is seen had been handed in, in epoch milliseconds. */
  handedIn: number | null;
  version: number;
}

/** Who goes on looking at a copy that is being written looks again so often, in milliseconds. */
const AGAIN = 10_000;

/** Tells the server what somebody looked at: at once, then from time to time, and what they saw last when they leave it. */
export class Looks {
  private timer: ReturnType<typeof setTimeout> | null = null;
  private waiting: Look | null = null;

  look(look: Look): void {
    this.waiting = look;
    if (!this.timer) this.tell();
  }

  private tell(): void {
    const look = this.waiting;
    this.waiting = null;
    this.timer = null;
    if (!look) return;
    const { page, ...seen } = look;
    // A look that is not told is told with the next.
    void send(`/pages/${page}/marking`, { move: 'look', ...seen }).catch(() => undefined);
    this.timer = setTimeout(() => this.tell(), AGAIN);
  }

  leave(): void {
    if (this.timer) clearTimeout(this.timer);
    this.tell();
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }
}
