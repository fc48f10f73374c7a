import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { moveOn, type Authorship } from '$core/history/authorship';
import { applyStep } from '$core/history/moment';
import type { LoggedStep } from '$core/history/rebase';

/** A logged step with the page it was made on. */
export interface HeldStep extends LoggedStep {
  /** The version that the step made. */
  version: number;
  before: Node;
  author: string;
}

const SNAPSHOT_EVERY = 200;
/** How many of the last steps a held page remembers with their pages: more than since its newest snapshot. */
const REMEMBERED = 256;

/**
 * A page as this process holds it in memory: any process can make it again from the last snapshot and the steps after
 * it. Never changed in place, so that a transaction that fails leaves the held one as it was.
 */
export class HeldPage {
  private constructor(
    readonly version: number,
    readonly doc: Node,
    /**
     * Steps without a gap, of which the first `count` lead up to `version`, at least from the newest snapshot on.
     * Pages that come from each other share it: a later one only adds behind what an earlier one counts.
     */
    private readonly steps: HeldStep[],
    private readonly count: number,
    /** The version of the newest snapshot. */
    readonly snapshot: number,
    private readonly authorshipThen: Authorship,
    /** When the last step was made, in epoch milliseconds; 0 when none is known. */
    readonly lastAt: number,
  ) {}

  static at(version: number, doc: Node, authorship: Authorship): HeldPage {
    return new HeldPage(version, doc, [], 0, version, authorship, 0);
  }

  /** Whether steps came after the newest snapshot. */
  get hasNews(): boolean {
    return this.version > this.snapshot;
  }

  get wantsSnapshot(): boolean {
    return this.version - this.snapshot >= SNAPSHOT_EVERY;
  }

  /** Who wrote what. Made when it is asked for, so that a step stays cheap. */
  authorship(): Authorship {
    const steps = this.since(this.snapshot);
    if (!steps) throw new Error('a page was held for too long without a snapshot');
    return moveOn(this.authorshipThen, steps);
  }

  /** @throws StepDoesNotFit */
  with(step: Step, client: string, no: number, author: string, at: number): HeldPage {
    const doc = applyStep(step, this.doc);
    const version = this.version + 1;
    const entry: HeldStep = { version, step, client, no, before: this.doc, author };
    const { snapshot, authorshipThen } = this;
    const isNewest = this.steps.length === this.count && this.count < REMEMBERED * 2;
    const from = Math.max(0, this.count - REMEMBERED);
    const steps = isNewest ? this.steps : this.steps.slice(from, this.count);
    steps.push(entry);
    return new HeldPage(version, doc, steps, steps.length, snapshot, authorshipThen, at);
  }

  snapshotAfter(): HeldPage {
    return this.snapshotOf(this.authorship());
  }

  /** With a snapshot of itself that says who wrote what: after a page was put back, whoever had written it. */
  snapshotOf(authorship: Authorship): HeldPage {
    const { version, doc, steps, count, lastAt } = this;
    return new HeldPage(version, doc, steps, count, version, authorship, lastAt);
  }

  /** The remembered steps after `base`, or null when it does not remember that far back. */
  since(base: number): readonly HeldStep[] | null {
    if (base === this.version) return [];
    const first = this.steps[0];
    if (!first || base < first.version - 1) return null;
    return this.steps.slice(base - first.version + 1, this.count);
  }
}
