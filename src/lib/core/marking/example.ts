/** A copy that is shown as an example of a step of a rubric, for those who score by it. */
export interface Example {
  id: string;
  /** An id of the rubric’s. */
  criterion: string;
  /** The points of the step. */
  points: string;
}

/** The same, with its page: without the names of those whose it is. */
export interface ExampleShown extends Example {
  doc: object;
}
