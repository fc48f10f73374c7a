/** A row that stands under others: `depth` rows are over it. */
interface Nested {
  id: string;
  depth: number;
}

export interface Branch<T extends Nested> {
  id: string;
  row: T;
  under: Branch<T>[];
}

/**
 * The trees of a list in which parents stand before their children, without what neither is shown
 * itself nor has anything shown under it.
 */
export function forest<T extends Nested>(rows: readonly T[], shown: (row: T) => boolean) {
  const roots: Branch<T>[] = [];
  const open: Branch<T>[] = [];
  for (const row of rows) {
    const branch = { id: row.id, row, under: [] };
    open.length = Math.min(open.length, row.depth);
    (open.at(-1)?.under ?? roots).push(branch);
    open.push(branch);
  }
  const prune = (branches: Branch<T>[]): Branch<T>[] =>
    branches
      .map((branch) => ({ ...branch, under: prune(branch.under) }))
      .filter(({ row, under }) => under.length > 0 || shown(row));
  return prune(roots);
}
