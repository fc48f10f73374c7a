import { lastOf, type Stretch } from '$core/history/moment';
import type { Authorship } from '$core/history/authorship';
import { fetchJson } from '../send';
import type { MomentAnswer, MomentQuestion } from './moment.worker';

/** A page as it stood at a version, and who made that version when; null for what it began as. */
export interface Moment {
  version: number;
  doc: object;
  /** Who had written what of it. */
  authorship: Authorship;
  made: { author: string; at: number } | null;
}

/** The moments of one page. Each stretch of its history is read once; a worker makes the pages. */
export class Moments {
  private readonly stretches: Stretch[] = [];
  private readonly worker = new Worker(new URL('./moment.worker.ts', import.meta.url), {
    type: 'module',
  });
  private readonly waiting = new Map<number, (made: MomentAnswer['made']) => void>();
  private asked = 0;
  /** One stretch is read at a time: who drags passes many before the first has come. */
  private reading: Promise<unknown> | null = null;

  /** @param way where its history is asked for */
  constructor(private readonly way: string) {
    this.worker.addEventListener('message', ({ data }: MessageEvent<MomentAnswer>) => {
      this.waiting.get(data.no)?.(data.made);
      this.waiting.delete(data.no);
    });
  }

  /** @returns null when another moment was asked for meanwhile @throws Error with a sentence */
  async at(version: number): Promise<Moment | null> {
    const no = ++this.asked;
    const stretch = await this.stretchOf(version, no);
    if (!stretch || no !== this.asked) return null;
    const made = await new Promise<MomentAnswer['made']>((answered) => {
      this.waiting.set(no, answered);
      this.worker.postMessage({ no, stretch, version } satisfies MomentQuestion);
    });
    if (no !== this.asked) return null;
    if (!made) throw new Error('This moment cannot be shown. The page itself is not touched.');
    const step = stretch.steps[version - stretch.version - 1];
    return { version, ...made, made: step ? { author: step.author, at: step.at } : null };
  }

  /** @returns null when another moment was asked for before it was read */
  private async stretchOf(version: number, no: number): Promise<Stretch | null> {
    const known = () =>
      this.stretches.find((one) => version >= one.version && version <= lastOf(one));
    while (!known()) {
      if (this.reading) await this.reading.catch(() => undefined);
      else {
        this.reading = this.read(version).finally(() => (this.reading = null));
        await this.reading;
      }
      if (no !== this.asked) return null;
    }
    return known() ?? null;
  }

  private async read(version: number) {
    this.stretches.push(await fetchJson<Stretch>(`${this.way}/history/${version}`));
  }

  close(): void {
    this.worker.terminate();
  }
}
