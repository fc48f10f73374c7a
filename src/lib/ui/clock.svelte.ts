/** The time now, moving on by itself while somebody looks. Epoch milliseconds. */
export class Clock {
  now: number = $state(Date.now());

  /** @param every milliseconds @returns what stops it */
  run(every: number): () => void {
    const timer = setInterval(() => (this.now = Date.now()), every);
    return () => clearInterval(timer);
  }
}
