import { readAgain } from '../refresh';

/** In milliseconds. */
const LOOK_EVERY = 1_000;

/** Reads a view again and again while an archive is being made. For an effect. @returns what ends it */
export function followMaking(
  archive: { finished: number | null } | null,
  dependency: `uncia:${string}`,
): (() => void) | undefined {
  if (archive === null || archive.finished !== null) return undefined;
  const timer = setInterval(() => void readAgain(dependency), LOOK_EVERY);
  return () => clearInterval(timer);
}
