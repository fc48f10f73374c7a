import type { Example, ExampleShown } from '$core/marking/example';
import { samePoints } from '$core/marking/points';
import { fetchJson, send } from '../send';

/** The examples of a rubric’s steps, as whoever scores by it has them before them. */
export class Examples {
  all: Example[] = $state.raw([]);
  /** The one that is open, with its page. */
  shown: ExampleShown | null = $state.raw(null);
  sentence = $state('');
  private read = false;

  /** @param assignment the address of the assignment in its class */
  constructor(private readonly assignment: string) {}

  private get url() {
    return `${this.assignment}/examples`;
  }

  /** Reads which there are, when they are needed first. */
  async load(): Promise<void> {
    if (this.read) return;
    this.read = true;
    await this.tried(async () => {
      this.all = await fetchJson<Example[]>(this.url);
    });
  }

  of(criterion: string, points: string): Example[] {
    return this.all.filter((one) => one.criterion === criterion && samePoints(one.points, points));
  }

  open(id: string): Promise<void> {
    return this.tried(async () => {
      this.shown = await fetchJson<ExampleShown>(`${this.url}/${id}`);
    });
  }

  /** Keeps a copy as an example, and shows it as others will see it. */
  keep(copy: string, criterion: string, points: string): Promise<void> {
    return this.tried(async () => {
      const kept = await send<Example>(this.url, { copy, criterion, points });
      this.all = [...this.all.filter(({ id }) => id !== kept.id), kept];
      await this.open(kept.id);
    });
  }

  putAway(example: Example): Promise<void> {
    return this.tried(async () => {
      await send(`${this.url}/${example.id}`, { away: true });
      this.all = this.all.filter(({ id }) => id !== example.id);
      this.shown = null;
    });
  }

  private async tried(deed: () => Promise<void>) {
    this.sentence = '';
    try {
      await deed();
    } catch (error) {
      this.sentence = error instanceof Error ? error.message : '';
    }
  }
}
