import type { HandOutSpec } from '$core/handout/spec';
import { read, store } from '../outbox/sealed-store';
import type { HandOutForm } from './hand-out-form.svelte';

/** A hand-out that was filled in and neither sent nor saved. */
interface Left {
  /** Its mark: what was sent all the same is not sent twice. */
  id: string;
  /** Of the draft that it goes on with. */
  version: number;
  spec: HandOutSpec;
  points: string;
  goesOut: string;
}

/** Typing is gathered this long before it is kept, in milliseconds. */
const GATHER = 400;

/** Keeps a hand-out as it is being filled in, in this browser, for whoever fills it in, until it is sent or saved. */
export class LeftForm {
  /** Whether all that was filled in lies in this browser. */
  isKept = $state(false);
  private timer: ReturnType<typeof setTimeout> | null = null;
  private last = '';
  private readonly name: string;

  /** @param what tells one form from another */
  constructor(what: string) {
    this.name = `hand out ${what}`;
  }

  of = (form: HandOutForm): Pick<Left, 'spec' | 'points' | 'goesOut'> => ({
    spec: form.whole,
    points: form.points,
    goesOut: form.goesOut,
  });

  read = (): Promise<Left | null> => read(this.name) as Promise<Left | null>;

  keep(left: Left): void {
    const text = JSON.stringify(left);
    const begins = this.last === '';
    const same = this.last === text;
    this.last = text;
    // A form that nobody touched is not kept.
    if (begins || same) return;
    if (this.timer) clearTimeout(this.timer);
    this.isKept = false;
    this.timer = setTimeout(() => void this.store(left, text), GATHER);
  }

  private async store(left: Left, text: string) {
    // A browser that keeps nothing (a private window) does not say that it did.
    await store(this.name, left).then(
      () => (this.isKept = this.last === text),
      () => undefined,
    );
  }

  done(): void {
    if (this.timer) clearTimeout(this.timer);
    this.isKept = false;
    void store(this.name, null);
  }
}
