import { nextFrame } from '$core/history/playing';

/** Plays a page's history, from the version that is shown to the newest. */
export class Player {
  playing = $state(false);
  speed = $state(20);

  /**
   * @param timesFrom when a version and those after it were made
   * @param show shows a version; resolves when it stands there
   */
  constructor(
    private readonly timesFrom: (version: number) => Promise<number[]>,
    private readonly show: (version: number) => Promise<void>,
  ) {}

  /**
   * @param from the version to begin with; from the newest it begins at the first
   * @returns when it is played to its end, or was stopped @throws what reading its history throws
   */
  async play(
    from: number,
    { first, version: newest }: { first: number; version: number },
  ): Promise<void> {
    this.playing = true;
    try {
      let version = from < newest ? from : first;
      while (this.playing && version < newest) {
        const { versions, wait } = nextFrame(await this.timesFrom(version), this.speed);
        if (versions === 0) break;
        await new Promise((resolve) => setTimeout(resolve, wait));
        if (!this.playing) break;
        version += versions;
        await this.show(version);
      }
    } finally {
      this.playing = false;
    }
  }

  stop(): void {
    this.playing = false;
  }
}
