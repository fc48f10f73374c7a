import type { Heard, News } from '$core/live/news';
import { backOff } from './back-off';

const CHANNEL = 'uncia news';
/** A view's data may have been asked for so long before it opened, in milliseconds: when the pointer came to its link. */
const HOVER = 60_000;

/**
 * One stream of news for all tabs of this browser: the tab that holds the lock listens and passes it on to the others.
 * Where there are no locks (a plain http address that is not this machine), each tab has its own stream.
 */
class Live {
  private readonly hearers = new Set<(heard: Heard) => void>();
  private channel: BroadcastChannel | null = null;
  private source: EventSource | null = null;
  private release: (() => void) | null = null;
  private failures = 0;
  private isOn = false;
  /** What was heard last, each with the time of this machine. */
  private last: { at: number; news: readonly News[] }[] = [];
  /** When the data of the view that is open now were asked for, at the earliest. */
  private askedAt = 0;

  /** @returns what ends the hearing */
  hear(hearer: (heard: Heard) => void): () => void {
    this.hearers.add(hearer);
    if (!this.isOn) this.start();
    return () => {
      this.hearers.delete(hearer);
      // A view that is left makes room for another, which goes on hearing.
      queueMicrotask(() => this.hearers.size === 0 && this.stop());
    };
  }

  /** Another view is asked for. @param isHovered whether its data may lie here since the pointer came to its link */
  viewAsked(isHovered: boolean): void {
    this.askedAt = Date.now() - (isHovered ? HOVER : 0);
  }
  /** What was heard since the open view's data were asked for: they may be older. */
  get sinceAsked(): News[] {
    return this.last.flatMap(({ at, news }) => (at >= this.askedAt ? news : []));
  }

  private start() {
    this.isOn = true;
    if (!navigator.locks) return this.listen();
    this.channel = new BroadcastChannel(CHANNEL);
    this.channel.onmessage = ({ data }) => this.spread(data);
    const holding = new AbortController();
    const held = new Promise<void>((resolve) => {
      this.release = () => {
        holding.abort();
        resolve();
      };
    });
    navigator.locks
      .request(CHANNEL, { signal: holding.signal }, () => {
        this.listen();
        return held;
      })
      .catch(() => undefined);
    // Another tab may be listening already; what happened before this one opened is asked for once.
    queueMicrotask(() => this.spread('resync'));
  }

  private stop() {
    this.isOn = false;
    this.last = [];
    this.release?.();
    this.source?.close();
    this.channel?.close();
    this.source = this.channel = this.release = null;
  }

  private listen() {
    const source = new EventSource('/live');
    this.source = source;
    const pass = (heard: Heard) => {
      this.channel?.postMessage(heard);
      this.spread(heard);
    };
    source.onopen = () => (this.failures = 0);
    source.onmessage = ({ data }) => pass(JSON.parse(data));
    source.addEventListener('resync', () => pass('resync'));
    source.onerror = () => {
      if (source.readyState !== EventSource.CLOSED || this.source !== source) return;
      const wait = backOff(++this.failures);
      setTimeout(() => this.source === source && this.listen(), wait);
    };
  }

  private spread(heard: Heard) {
    const at = Date.now();
    this.last = this.last.filter((one) => one.at > at - HOVER);
    if (heard !== 'resync') this.last.push({ at, news: heard });
    for (const hearer of this.hearers) hearer(heard);
  }
}

export const live = new Live();
