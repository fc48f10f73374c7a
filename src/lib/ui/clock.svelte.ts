import { serverNow } from './server-time';

/** The time now by the server's clock, moving on by itself while somebody looks. Epoch milliseconds. */
export class Clock {
  now: number = $state(serverNow());

  /** @param every milliseconds @returns what stops it */
  run(every: number): () => void {
    const timer = setInterval(() => (this.now = serverNow()), every);
    return () => clearInterval(timer);
  }
}
