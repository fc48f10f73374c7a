/** What a view shows beside a refusal: the name that was given, the cells of a table that cannot be read. */
export interface RefusalDetails {
  name?: string;
  faults?: readonly { cell: string; says: string }[];
}

/** Something that was asked for and cannot be done, with a sentence for the person who asked. */
export class Refusal extends Error {
  constructor(
    /** An HTTP status. */
    readonly status: number,
    sentence: string,
    /** What the view shows beside the sentence. */
    readonly more: RefusalDetails = {},
  ) {
    super(sentence);
  }
}

/** The refusal that something thrown stands for; null for what nobody expected. */
export function refusalIn(thrown: unknown): Refusal | null {
  if (thrown instanceof Refusal) return thrown;
  const code = thrown instanceof Error && 'code' in thrown ? String(thrown.code) : '';
  // PostgreSQL's class 22: a value cannot be kept, whatever way it came in.
  if (code.startsWith('22'))
    return new Refusal(422, 'This holds something that cannot be kept, so nothing was saved.');
  // Unique keys and exclusions: what there is one of was made by somebody else in the same second.
  if (code === '23505' || code === '23P01')
    return new Refusal(409, 'Somebody did this at the same moment. Please look again.');
  return null;
}
