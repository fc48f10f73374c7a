import { rebaseSteps } from 'prosemirror-collab';
import type { Node } from 'prosemirror-model';
import { ReplaceStep, Transform, type Mapping, type Step } from 'prosemirror-transform';

/** A client's own step with the client's own number for it, which counts from 1. */
export interface NumberedStep {
  no: number;
  step: Step;
  /** Whether it types on behind its writer's own last words: such a step stays behind them, whatever comes in between. */
  follows?: boolean;
  /** Whether it brought in what was copied elsewhere. */
  pasted?: boolean;
}

/** A step of the log, as far as bringing others up to date needs it. */
export interface LoggedStep extends NumberedStep {
  client: string;
}

export interface UpToDate {
  /** Those of the client's steps that are not in the log yet, fitting its newest version. */
  fresh: NumberedStep[];
  /** Those whose place is gone, as the client made them. */
  setAside: NumberedStep[];
}

/** A step does not fit the version it was said to be made on. */
export class StepDoesNotFit extends RangeError {}

/** A step that waits to be rebased, with what undoes it. `Origin` is what its owner knows it by. */
export interface WaitingStep<Origin> {
  step: Step;
  inverted: Step;
  follows: boolean;
  origin: Origin;
}

/**
 * A step moved over changes; null when its place is gone. Where somebody else's insertion stands at the very place of
 * ours, typing that goes on stays behind its writer's own words, and typing that begins goes behind the other's: so no
 * run of typing is ever split by another's letters.
 */
function moved(step: Step, over: Mapping, follows: boolean): Step | null {
  const inserts = step instanceof ReplaceStep && step.from === step.to;
  if (!inserts || !follows) return step.map(over);
  return step.map({
    map: (place) => over.map(place, -1),
    mapResult: (place) => over.mapResult(place, -1),
  });
}

/**
 * Undoes steps, applies those of others, and does the steps again where they still have a place: prosemirror-collab's
 * rebasing, with typing kept together. Server and client run this same function, so both end at the same page.
 * @param leftOut which of them, by their places, are not done again
 * @returns the steps that have a place, in their order, each with its place among `steps`
 */
export function rebaseWithout<Origin>(
  steps: readonly WaitingStep<Origin>[],
  over: readonly Step[],
  transform: Transform,
  leftOut: (no: number) => boolean,
): { no: number; waiting: WaitingStep<Origin> }[] {
  const rebased = rebaseSteps(
    steps.map((waiting, no) => ({
      step: {
        map: (mapping: Mapping) =>
          leftOut(no) ? null : moved(waiting.step, mapping, waiting.follows),
      },
      inverted: waiting.inverted,
      origin: { no, waiting },
    })),
    over,
    transform,
  );
  return rebased.map(({ step, inverted, origin }) => ({
    no: origin.no,
    waiting: { ...origin.waiting, step, inverted },
  }));
}

/** The same with all of them. */
export const rebase = <Origin>(
  steps: readonly WaitingStep<Origin>[],
  over: readonly Step[],
  transform: Transform,
): WaitingStep<Origin>[] =>
  rebaseWithout(steps, over, transform, () => false).map(({ waiting }) => waiting);

/** Splits the log into runs of one client's own steps and of other people's. */
function runsOf(news: readonly LoggedStep[], client: string) {
  const runs: { own: boolean; steps: LoggedStep[] }[] = [];
  for (const entry of news) {
    const own = entry.client === client;
    const last = runs.at(-1);
    if (last?.own === own) last.steps.push(entry);
    else runs.push({ own, steps: [entry] });
  }
  return runs;
}

/**
 * Brings a client's steps, made on `base`, up to date with what the log took in since (`news`), by the same
 * rebasing that the client will do when it hears of that news, so both end at the same page.
 * Steps of `mine` that are in `news` already (a repeat after a lost answer) are recognised by their numbers.
 * @throws StepDoesNotFit when `mine` cannot be applied to `base`
 */
export function bringUpToDate(
  base: Node,
  mine: readonly NumberedStep[],
  news: readonly LoggedStep[],
  client: string,
): UpToDate {
  if (news.length === 0) return { fresh: [...mine], setAside: [] };

  const own = new Transform(base);
  let waiting = mine.map((origin): WaitingStep<NumberedStep> => {
    const before = own.doc;
    try {
      own.step(origin.step);
    } catch (error) {
      throw new StepDoesNotFit('a step does not fit its version', { cause: error });
    }
    const { step, follows = false } = origin;
    return { step, inverted: step.invert(before), follows, origin };
  });

  let doc = own.doc;
  const logged = new Set<number>();
  for (const run of runsOf(news, client)) {
    if (run.own) {
      for (const entry of run.steps) logged.add(entry.no);
      waiting = waiting.filter((entry) => !logged.has(entry.origin.no));
    } else {
      const transform = new Transform(doc);
      waiting = rebase(
        waiting,
        run.steps.map((entry) => entry.step),
        transform,
      );
      doc = transform.doc;
    }
  }
  const kept = new Set(waiting.map((entry) => entry.origin.no));
  return {
    fresh: waiting.map(({ step, follows, origin }) => ({ ...origin, step, follows })),
    setAside: mine.filter((entry) => !kept.has(entry.no) && !logged.has(entry.no)),
  };
}
