import type { Authorship } from '$core/history/authorship';
import type { Difference } from '$core/history/compare';
import { lastOf, type Stretch } from '$core/history/moment';
import { fetchJson } from '../send';
import type { MomentAnswer, MomentQuestion, Questions } from './moment.worker';

/** A page as it stood at a version, and who made that version when; null for what it began as. */
export interface Moment {
  version: number;
  doc: object;
  /** Who had written what of it. */
  authorship: Authorship;
  made: { author: string; at: number } | null;
}

/** Makes pages and compares them, beside the view. */
export class MomentMaker {
  private readonly worker = new Worker(new URL('./moment.worker.ts', import.meta.url), {
    type: 'module',
  });
  private readonly waiting = new Map<number, (made: MomentAnswer['made']) => void>();
  private asked = 0;

  constructor() {
    this.worker.addEventListener('message', ({ data }: MessageEvent<MomentAnswer>) => {
      this.waiting.get(data.no)?.(data.made);
      this.waiting.delete(data.no);
    });
  }

  /** @throws Error with a sentence when it cannot be made */
  async ask<K extends keyof Questions>(
    kind: K,
    asks: Questions[K]['asks'],
  ): Promise<Questions[K]['made']> {
    const no = ++this.asked;
    const made = await new Promise<MomentAnswer['made']>((answered) => {
      this.waiting.set(no, answered);
      this.worker.postMessage({ no, kind, ...asks } as MomentQuestion);
    });
    if (!made) throw new Error('This moment cannot be shown. The page itself is not touched.');
    return made as Questions[K]['made'];
  }

  compare = (was: object, is: object): Promise<Difference[]> =>
    this.ask('differences', { was, is });

  close(): void {
    this.worker.terminate();
  }
}

/** The moments of one page. Each stretch of its history is read once. */
export class Moments {
  private readonly stretches: Stretch[] = [];
  private asked = 0;
  /** One stretch is read at a time: who drags passes many before the first has come. */
  private reading: Promise<unknown> | null = null;

  /** @param way where its history is asked for */
  constructor(
    private readonly way: string,
    private readonly maker: MomentMaker,
  ) {}

  /** @returns null when another moment was asked for meanwhile @throws Error with a sentence */
  async at(version: number): Promise<Moment | null> {
    const no = ++this.asked;
    const stretch = await this.stretchOf(version, () => no === this.asked);
    if (!stretch || no !== this.asked) return null;
    const made = await this.maker.ask('moment', { stretch, version });
    if (no !== this.asked) return null;
    return { version, ...made, made: madeIn(stretch, version) };
  }

  /** When a version and those after it were made, as far as they are read at once. */
  async timesFrom(version: number): Promise<number[]> {
    const stretch = await this.stretchOf(version);
    if (!stretch) return [];
    const times = [
      madeIn(stretch, version)?.at,
      ...stretch.steps.slice(version - stretch.version).map(({ at }) => at),
    ];
    // The next one begins another stretch.
    const next = await this.stretchOf(lastOf(stretch) + 1).catch(() => null);
    const known = [...times, next?.made?.at].filter((at) => at !== undefined);
    // What a page began as is shown as long as it takes to see it.
    return times[0] === undefined && known[0] !== undefined ? [known[0], ...known] : known;
  }

  /** @returns null when it is not wanted any more before it was read */
  private async stretchOf(version: number, isWanted = () => true): Promise<Stretch | null> {
    const known = () =>
      this.stretches.find((one) => version >= one.version && version <= lastOf(one));
    while (!known()) {
      if (this.reading) await this.reading.catch(() => undefined);
      else {
        this.reading = this.read(version).finally(() => (this.reading = null));
        await this.reading;
      }
      if (!isWanted()) return null;
    }
    return known() ?? null;
  }

  private async read(version: number) {
    this.stretches.push(await fetchJson<Stretch>(`${this.way}/history/${version}`));
  }
}

function madeIn(stretch: Stretch, version: number): Moment['made'] {
  if (version === stretch.version) return stretch.made;
  const step = stretch.steps[version - stretch.version - 1];
  return step ? { author: step.author, at: step.at } : null;
}
