/** One thing that two people saved differently. */
export interface Difference {
  /** What it is, as its view calls it. */
  what: string;
  mine: string;
  theirs: string;
}

/** The things that differ, of two lists of things by their names; what only one of them has stands against nothing. */
export function differences(
  mine: ReadonlyMap<string, string>,
  theirs: ReadonlyMap<string, string>,
): Difference[] {
  return [...new Set([...mine.keys(), ...theirs.keys()])].flatMap((what) => {
    const [one = '', other = ''] = [mine.get(what), theirs.get(what)];
    return one === other ? [] : [{ what, mine: one, theirs: other }];
  });
}
