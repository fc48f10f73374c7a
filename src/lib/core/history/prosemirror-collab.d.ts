import type { Step, Transform } from 'prosemirror-transform';

/** Exported by the package, but left out of its types. */
declare module 'prosemirror-collab' {
  export function rebaseSteps<Origin>(
    steps: readonly { step: Step; inverted: Step; origin: Origin }[],
    over: readonly Step[],
    transform: Transform,
  ): { step: Step; inverted: Step; origin: Origin }[];
}
