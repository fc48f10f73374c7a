/** Something that was asked for and cannot be done, with a sentence for the person who asked. */
export class Refusal extends Error {
  constructor(
    /** An HTTP status. */
    readonly status: number,
    sentence: string,
  ) {
    super(sentence);
  }
}
