import { untrack } from 'svelte';
import { isLaterScore } from '$core/marking/kept-score';
import { readPoints, writePoints } from '$core/marking/points';
import { stepAt, sumOf } from '$core/marking/rubric-steps';
import type { Scoring, ScoringSpec } from '$core/marking/scoring';
import { Draft } from '$ui/draft.svelte';
import { send } from '$ui/send';

interface Filled {
  /** The last score that was seen when it was begun: an id. */
  after: string | null;
  criteria: ScoringSpec['criteria'];
  /** As they are typed; null where the rubric's points count. */
  overruled: { points: string; reason: string } | null;
}

/** What somebody chose and typed, whatever it follows. */
const told = ({ criteria, overruled }: Filled) => JSON.stringify([criteria, overruled]);

/** A scoring while it is made. What is not saved yet is kept in this browser. */
export class ScoringForm {
  private readonly draft: Draft;
  private saved = $state.raw<Filled>({ after: null, criteria: [], overruled: null });

  constructor(
    private readonly page: string,
    readonly rubric: Scoring['rubric'],
  ) {
    this.draft = new Draft(`scoring ${page}`);
  }

  /** These, as far as they fit the rubric as it stands: each of its criteria, with a step of its scale or none. */
  private fitting(criteria: ScoringSpec['criteria']): ScoringSpec['criteria'] {
    const { table } = this.rubric;
    return table.criteria.map(({ id }) => {
      const own = criteria.find((one) => one.id === id);
      return {
        id,
        points: stepAt(table, own?.points ?? null)?.points ?? null,
        words: own?.words ?? '',
      };
    });
  }

  /**
   * What is saved: the last scoring, and its score. A criterion that the rubric has gained or changed since is not scored
   * yet. What was changed here stays; so does what was saved here after this was read.
   */
  take(last: ScoringSpec | null, score: string | null): void {
    const seen = untrack(() => this.saved.after);
    if (isLaterScore(seen, score)) return;
    this.saved = {
      after: score,
      criteria: this.fitting(last?.criteria ?? []),
      overruled: last?.overruled
        ? { ...last.overruled, points: writePoints(last.overruled.points) }
        : null,
    };
  }

  /**
   * Gives the copy this score, where it is another than before; and hands it back, where that is asked. What was changed
   * while it was on its way is still to be saved, after it. @throws Error with a sentence
   */
  async send(move: 'score' | 'hand back'): Promise<void> {
    const { id, version } = this.rubric;
    const { spec } = this;
    const sent = told(this.filled);
    const given = this.changed ? { scoring: spec, rubric: { id, version } } : null;
    const { score } = await send<{ score: string | null }>(`/pages/${this.page}/marking`, {
      move,
      given,
      after: this.after,
    });
    this.take(spec, score);
    if (told(this.filled) === sent) this.forget();
    else this.follow(score);
  }

  /** Forgets what is not saved. */
  forget(): void {
    this.draft.text = '';
  }
  /** From now on it is meant to follow this score. */
  follow(score: string | null): void {
    this.fill({ after: score });
  }
  private get after(): string | null {
    return this.filled.after;
  }

  /** Whether somebody else scored it after this was begun. @param score its last score */
  isBehind(score: string | null): boolean {
    return this.changed && isLaterScore(score, this.after);
  }

  get changed(): boolean {
    return told(this.filled) !== told(this.saved);
  }

  private readonly filled: Filled = $derived.by(() => {
    if (this.draft.text === '') return this.saved;
    const { after, criteria, overruled }: Filled = JSON.parse(this.draft.text);
    return { after, criteria: this.fitting(criteria), overruled };
  });
  private fill(part: Partial<Filled>): void {
    this.draft.text = JSON.stringify({ ...this.filled, ...part });
  }

  get criteria(): ScoringSpec['criteria'] {
    return this.filled.criteria;
  }
  score(criterion: string, part: { points?: string | null; words?: string }): void {
    this.fill({
      criteria: this.criteria.map((one) => (one.id === criterion ? { ...one, ...part } : one)),
    });
  }

  get overruled(): Filled['overruled'] {
    return this.filled.overruled;
  }
  set overruled(overruled: Filled['overruled']) {
    this.fill({ overruled });
  }

  get sum() {
    return sumOf(this.rubric.table, this.criteria);
  }

  /** What is wrong with it, in a sentence; null for nothing. */
  get fault(): string | null {
    if (!this.overruled) return null;
    if (readPoints(this.overruled.points) === null)
      return 'Points are a number such as 6, 6½ or 6.5.';
    return this.overruled.reason.trim()
      ? null
      : 'Please say why other points count than the rubric’s.';
  }

  get spec(): ScoringSpec {
    const { criteria, overruled } = this.filled;
    return {
      criteria,
      overruled: overruled && { ...overruled, points: readPoints(overruled.points) ?? '' },
    };
  }
}
