import type { Checked, CheckedPart, Overruled } from './check-copy';

/** Whether a part counts: as somebody decided, else as its key says. */
export const isRight = ({ verdict, overruled }: CheckedPart): boolean =>
  (overruled ?? verdict) === 'right';

/** How many count, of how many. Each part counts the same. */
export const rightOf = ({ parts }: Checked): { right: number; of: number } => ({
  right: parts.filter(isRight).length,
  of: parts.length,
});

/** What somebody decided against the key, as far as it stands. */
export const overruledIn = (checked: Checked | null): Overruled =>
  Object.fromEntries(
    (checked?.parts ?? []).flatMap(({ id, overruled }) => (overruled ? [[id, overruled]] : [])),
  );
