import { rebaseSteps } from 'prosemirror-collab';
import type { Node } from 'prosemirror-model';
import { Transform, type Step } from 'prosemirror-transform';

/** A client's own step with the client's own number for it, which counts from 1. */
export interface NumberedStep {
  no: number;
  step: Step;
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
  let waiting = mine.map((origin) => {
    const before = own.doc;
    try {
      own.step(origin.step);
    } catch (error) {
      throw new StepDoesNotFit('a step does not fit its version', { cause: error });
    }
    return { step: origin.step, inverted: origin.step.invert(before), origin };
  });

  let doc = own.doc;
  const logged = new Set<number>();
  for (const run of runsOf(news, client)) {
    if (run.own) {
      for (const entry of run.steps) logged.add(entry.no);
      waiting = waiting.filter((entry) => !logged.has(entry.origin.no));
    } else {
      const transform = new Transform(doc);
      const over = run.steps.map((entry) => entry.step);
      waiting = rebaseSteps(waiting, over, transform);
      doc = transform.doc;
    }
  }
  const kept = new Set(waiting.map((entry) => entry.origin.no));
  return {
    fresh: waiting.map((entry) => ({ no: entry.origin.no, step: entry.step })),
    setAside: mine.filter((entry) => !kept.has(entry.no) && !logged.has(entry.no)),
  };
}
