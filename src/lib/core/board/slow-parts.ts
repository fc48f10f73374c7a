import { medianOf } from '../lists/median';
import type { Pace } from './part-pace';

/** What of a part took the students of a class longer than its other parts. Half of those who worked on it needed as much. */
export interface SlowPart {
  part: string;
  /** Minutes; null where it is not the time that stands out. */
  minutes: number | null;
  /** How much of what was typed was taken away again, from 0 to 1; null where it is not that. */
  rewritten: number | null;
  /** What half of the parts need, in the same measures. */
  usual: { minutes: number; rewritten: number };
}

/** Fewer who worked on a part say nothing about a class. */
const FEWEST = 5;
/** A part stands out that takes twice what is usual, and not only seconds, or a word or two. */
const TIMES = 2;
const LEAST_MINUTES = 2;
const LEAST_REWRITTEN = 0.25;

/**
 * Where many slow down. Of each part that at least five worked on, half of them needed so many minutes, and took so much of
 * what they had typed away again; a part is named whose minutes, or whose rewriting, are at least twice what half of those
 * parts need, and at least two minutes, or a quarter. The measures are ours.
 * @param copies how each copy's students worked on its parts, by the parts' ids
 */
export function slowParts(copies: readonly ReadonlyMap<string, Pace>[]): SlowPart[] {
  const parts = [...new Set(copies.flatMap((paces) => [...paces.keys()]))];
  const measured = parts.flatMap((part) => {
    const paces = copies.flatMap((own) => own.get(part) ?? []);
    if (paces.length < FEWEST) return [];
    const minutes = medianOf(paces.map(({ time }) => time / 60_000));
    const rewritten = medianOf(
      paces.map(({ added, removed }) => Math.min(1, removed / (added || 1))),
    );
    return [{ part, minutes, rewritten }];
  });
  const usual = {
    minutes: medianOf(measured.map(({ minutes }) => minutes)),
    rewritten: medianOf(measured.map(({ rewritten }) => rewritten)),
  };
  return measured.flatMap(({ part, minutes, rewritten }) => {
    const takesLong = minutes >= Math.max(LEAST_MINUTES, TIMES * usual.minutes);
    const isRewritten = rewritten >= Math.max(LEAST_REWRITTEN, TIMES * usual.rewritten);
    if (!takesLong && !isRewritten) return [];
    return [
      {
        part,
        minutes: takesLong ? minutes : null,
        rewritten: isRewritten ? rewritten : null,
        usual,
      },
    ];
  });
}
