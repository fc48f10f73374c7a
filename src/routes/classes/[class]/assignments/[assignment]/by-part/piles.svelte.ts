import type { GivenPart } from '$core/marking/check-copy';
import { counted } from '$core/lists/counted';
import { listed } from '$core/lists/listed';
import { send } from '$ui/send';
import type { PiledAnswer } from '$server/copy/part-piles';
import type { PartCommented } from '$server/copy/comment-part';
import type { PartScored } from '$server/copy/score-part';

/** What somebody does with the piles of a part, and undoes. */
export class PileMoves {
  sentence = $state('');
  done = $state('');
  sending = $state(false);
  private undoable: { says: string; undo: () => Promise<string> }[] = $state.raw([]);

  constructor(
    private readonly at: string,
    private readonly changed: () => Promise<void>,
  ) {}

  get canUndo(): string | null {
    return this.undoable.at(-1)?.says ?? null;
  }

  /** Done when the piles are read again after the last move. */
  private underWay: Promise<unknown> = Promise.resolve();

  /** Does one move after the other: whoever goes by keys is faster than what they are told. @returns whether it went well */
  run(move: () => Promise<void>): Promise<boolean> {
    const turn = this.underWay.then(() => this.begin(move));
    this.underWay = turn;
    return turn;
  }

  private async begin(move: () => Promise<void>): Promise<boolean> {
    this.sending = true;
    this.sentence = this.done = '';
    let went = true;
    try {
      await move();
    } catch (error) {
      this.sentence = error instanceof Error ? error.message : '';
      went = false;
    }
    await this.changed().catch(() => undefined);
    this.sending = false;
    return went;
  }

  send = <T>(body: object): Promise<T> => send<T>(this.at, body);

  /**
   * Gives the answers of a pile points, or with null what their key says.
   * @param answersNow those that lie in it when its turn comes
   */
  score(
    part: string,
    answersNow: () => readonly PiledAnswer[],
    given: GivenPart | null,
    says: string,
  ): Promise<boolean> {
    return this.run(async () => {
      const scores = answersNow().map(({ copy, points }) => ({ copy, was: points, given }));
      const result = await this.send<PartScored>({ move: 'score', part, scores });
      const undo = result.before.map(({ copy, given: had, now }) => ({
        copy,
        was: now,
        given: had,
      }));
      if (undo.length > 0)
        this.add(says, async () =>
          sayLeft(await this.send<PartScored>({ move: 'score', part, scores: undo })),
        );
      this.sentence = sayLeft(result);
      this.done = undo.length > 0 ? says : '';
    });
  }

  /** Says the same on the answers of a pile. @param keptBack whether their students have it with their copies */
  comment(
    part: string,
    answers: readonly PiledAnswer[],
    text: string,
    keptBack: boolean,
  ): Promise<boolean> {
    const copies = answers.map(({ copy }) => copy);
    return this.run(async () => {
      const { said, left } = await this.send<PartCommented>({
        move: 'comment',
        part,
        copies,
        text,
        keptBack,
      });
      const says = `Commented in ${counted(said.length, 'copy', 'copies')}`;
      if (left > 0) this.sentence = `${counted(left, 'copy', 'copies')} took no comment.`;
      this.done = `${says}${keptBack ? '; it goes with the copies' : ''}.`;
      if (said.length > 0)
        this.add(says, async () => {
          const { left } = await this.send<{ left: number }>({ move: 'uncomment', said, keptBack });
          if (left > 0)
            return `In ${counted(left, 'copy', 'copies')} it stays: they were answered, handed back or closed meanwhile.`;
          return keptBack ? '' : 'Their students have the words already: they are settled now.';
        });
    });
  }

  private add(says: string, undo: () => Promise<string>) {
    this.undoable = [...this.undoable, { says, undo }];
  }

  undo(): Promise<boolean> {
    return this.run(async () => {
      const last = this.undoable.at(-1);
      if (!last) return;
      this.sentence = await last.undo();
      this.undoable = this.undoable.slice(0, -1);
      this.done = `Undone: ${last.says}`;
    });
  }
}

/** Why some copies stay as they are; empty for none. */
function sayLeft({ meanwhile, otherwise }: PartScored): string {
  const why = [
    ...(meanwhile > 0
      ? [`${counted(meanwhile, 'was', 'were')} scored by somebody else meanwhile`]
      : []),
    ...(otherwise > 0 ? [`${counted(otherwise, 'has', 'have')} points for the whole copy`] : []),
  ];
  return why.length > 0 ? `${listed(why)}, and stay as they are.` : '';
}
