import { differences } from '$core/lists/differences';
import { describeRubric } from '$core/marking/describe-rubric';
import type { RubricTable } from '$core/marking/rubric';
import { oneAtATime } from '$ui/one-at-a-time';
import { Refusal, send } from '$ui/send';

interface Rubric {
  title: string;
  table: RubricTable;
  version: number;
}
type Theirs = Rubric & { by: string };

const SAVING = 'saving …';

/** A list with one of its things a place on, or back. */
function moved<T>(list: readonly T[], from: number, by: number): T[] {
  const next = [...list];
  next.splice(from + by, 0, ...next.splice(from, 1));
  return next;
}

/** A rubric as it is written by hand: each change is saved at once, over the version that it was made on. */
export class RubricForm {
  title = $state('');
  levels: number[] = $state([]);
  criteria: RubricTable['criteria'] = $state([]);
  version = $state(0);
  said = $state('');
  trouble = $state('');
  /** What somebody else saved since this was read. */
  theirs: Theirs | null = $state(null);
  readonly differing = $derived.by(() =>
    this.theirs
      ? differences(
          describeRubric(this.title, this),
          describeRubric(this.theirs.title, this.theirs.table),
        )
      : [],
  );

  constructor(
    rubric: Rubric,
    private readonly address: string,
    /** Called when a change is kept. */
    private readonly kept: () => void,
  ) {
    this.fill(rubric);
  }

  fill({ title, table, version }: Rubric): void {
    this.levels = structuredClone($state.snapshot(table.levels));
    this.criteria = structuredClone($state.snapshot(table.criteria));
    this.title = title;
    this.version = version;
    this.theirs = null;
    this.trouble = '';
  }

  /** Whoever leaves two fields at once is not taken for two people. */
  private readonly sendLatest = oneAtATime(() => this.send());

  readonly save = (): Promise<void> => {
    // Said at once: what an earlier change was told does not hold for this one.
    this.said = SAVING;
    return this.sendLatest();
  };

  private async send(): Promise<void> {
    this.trouble = '';
    this.said = SAVING;
    const { title, levels, criteria, version } = this;
    try {
      const saved = { title, table: { levels, criteria }, version };
      this.version = (await send<{ version: number }>(this.address, saved, 'PUT')).version;
      this.theirs = null;
      this.said = 'everything is saved';
      this.kept();
    } catch (error) {
      this.said = '';
      const conflict = error instanceof Refusal && error.status === 409 && error.body.theirs;
      if (conflict) this.theirs = conflict as Theirs;
      else this.trouble = error instanceof Error ? error.message : '';
    }
  }

  saveMine(): void {
    this.version = this.theirs?.version ?? this.version;
    void this.save();
  }

  addLevel(): void {
    const lowest = Math.min(...this.levels);
    this.levels = [...this.levels, lowest > 0 ? lowest - 1 : Math.max(...this.levels) + 1];
    this.eachRow((descriptors) => [...descriptors, '']);
  }
  dropLevel(index: number): void {
    this.levels = this.levels.filter((_, i) => i !== index);
    this.eachRow((descriptors) => descriptors.filter((_, i) => i !== index));
  }
  moveLevel(index: number, by: number): void {
    this.levels = moved(this.levels, index, by);
    this.eachRow((descriptors) => moved(descriptors, index, by));
  }
  private eachRow(change: (descriptors: string[]) => string[]): void {
    this.criteria = this.criteria.map((one) => ({ ...one, descriptors: change(one.descriptors) }));
    void this.save();
  }

  addCriterion(): void {
    let number = this.criteria.length + 1;
    while (this.criteria.some(({ title }) => title === `Criterion ${number}`)) number += 1;
    const id = crypto.randomUUID().slice(0, 8);
    const descriptors = this.levels.map(() => '');
    this.criteria = [...this.criteria, { id, title: `Criterion ${number}`, descriptors }];
    void this.save();
  }
  dropCriterion(index: number): void {
    this.criteria = this.criteria.filter((_, i) => i !== index);
    void this.save();
  }
  moveCriterion(index: number, by: number): void {
    this.criteria = moved(this.criteria, index, by);
    void this.save();
  }
}
