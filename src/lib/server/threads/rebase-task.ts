import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { bringUpToDate, StepDoesNotFit, type NumberedStep } from '$core/history/rebase';
import { schema } from '$core/page/schema';
import { Refusal } from '../page/refusal';
import type { Answers, RebaseTask } from './tasks';

const asJson = ({ no, step, follows }: NumberedStep) => ({
  no,
  step: step.toJSON() as object,
  follows,
});

/** Brings steps up to date in a thread. @throws Refusal when they do not fit the page */
export function rebaseTask({ page, mine, news, client }: RebaseTask): Answers['rebase'] {
  const read = <S extends { step: object }>(one: S) => ({
    ...one,
    step: Step.fromJSON(schema, one.step),
  });
  try {
    const { fresh, setAside } = bringUpToDate(
      Node.fromJSON(schema, page),
      mine.map(read),
      news.map(read),
      client,
    );
    return { fresh: fresh.map(asJson), setAside: setAside.map(({ no }) => no) };
  } catch (error) {
    if (error instanceof StepDoesNotFit)
      throw new Refusal(422, 'This change does not fit the page.');
    throw error;
  }
}
