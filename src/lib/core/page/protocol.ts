import * as z from 'zod/mini';

/** Of one request, told to the person in words when passed. */
const MOST_STEPS_AT_ONCE = 20_000;

const StepJson = z.looseObject({
  stepType: z.string(),
  /** Whether it types on behind its writer's own last words. */
  follows: z.optional(z.boolean()),
  /** Whether it was pasted or dropped in from elsewhere. */
  pasted: z.optional(z.boolean()),
});

/**
 * What a client sends to change a page. It numbers what it sends, counting from 1: `first` is the number of the first
 * of `lost`, then of `steps`. `lost` are steps whose place was gone before they could be sent.
 */
export const StepsMessage = z.object({
  base: z.int().check(z.gte(0)),
  client: z.string().check(z.regex(/^[\w-]{8,40}$/)),
  first: z.int().check(z.gte(1), z.lte(2_000_000_000)),
  lost: z._default(z.array(StepJson).check(z.maxLength(MOST_STEPS_AT_ONCE)), []),
  steps: z.array(StepJson).check(z.maxLength(MOST_STEPS_AT_ONCE)),
});
export type StepsMessage = z.infer<typeof StepsMessage>;

/** A step of the log as a client hears of it. */
export interface StepNews {
  step: object;
  client: string;
  no: number;
}

/** Words whose place was gone when they arrived. */
export interface SetAsideText {
  client: string;
  no: number;
  words: string;
  /** Epoch milliseconds. */
  at: number;
}

/** What the server answers to steps, and to a question for news since `base`. */
export interface PageNews {
  base: number;
  version: number;
  steps: StepNews[];
  /** The fingerprint of the page at `version`, now and then. */
  fingerprint: string | null;
  /** The client's steps of this request that were set aside. */
  setAside: SetAsideText[];
}
