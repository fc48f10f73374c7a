import type { Mapping, Step, Transform } from 'prosemirror-transform';

/** Exported by the package, but left out of its types. Of a waiting step it asks where it goes, and what undoes it. */
declare module 'prosemirror-collab' {
  export function rebaseSteps<Origin>(
    steps: readonly {
      step: { map: (over: Mapping) => Step | null };
      inverted: Step;
      origin: Origin;
    }[],
    over: readonly Step[],
    transform: Transform,
  ): { step: Step; inverted: Step; origin: Origin }[];
}
