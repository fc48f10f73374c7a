import { grouped } from '../lists/grouped';

/** What was said on one answer of a pile together with others. */
export interface SaidOnPile {
  /** As it was typed: the blanks in it are not filled in. */
  text: string;
  /** Its student has it when the copy goes back. */
  keptBack: boolean;
}

/** What was said on a pile, in its order, and on how many of its answers. */
export const saidOn = (
  pile: readonly { said: readonly SaidOnPile[] }[],
): (SaidOnPile & { answers: number })[] =>
  [
    ...grouped(
      pile.flatMap(({ said }, index) => said.map((one) => ({ ...one, index }))),
      ({ text, keptBack }) => JSON.stringify([text, keptBack]),
    ).values(),
  ].flatMap(([first, ...more]) =>
    first === undefined
      ? []
      : {
          text: first.text,
          keptBack: first.keptBack,
          answers: new Set([first, ...more].map(({ index }) => index)).size,
        },
  );
