import { reduceEvents, type CopyEvent } from '../copy/reduce';
import { stateOf, type CopyState } from '../copy/state';

/** What happened to a copy. Instants in epoch milliseconds. */
export interface CopyHistory {
  made: number;
  events: readonly CopyEvent[];
  /** When its students began to write, each time, in order. */
  sittings: readonly number[];
  /** When it was scored. */
  scores: readonly number[];
}

/** The states in the order in which a chart has them, from the bottom. */
export const CHARTED = [
  'handed back',
  'marked',
  'handed in',
  'working',
  'opened',
  'unopened',
] as const;
export type Charted = (typeof CHARTED)[number];

/** What goes on after it was handed back is work; a file that waits to be handed in is, too. */
const chartedAs = (state: CopyState): Charted =>
  state === 'revising' || state === 'attached' ? 'working' : state;

const lastUntil = (times: readonly number[], at: number) =>
  times.findLast((time) => time <= at) ?? null;

/** How the copies stood at each of some moments: how many were in which state. */
export function statesOverTime(
  copies: readonly CopyHistory[],
  moments: readonly number[],
): Record<Charted, number>[] {
  return moments.map((at) => {
    const counts = {
      'handed back': 0,
      marked: 0,
      'handed in': 0,
      working: 0,
      opened: 0,
      unopened: 0,
    };
    for (const { made, events, sittings, scores } of copies) {
      if (made > at) continue;
      const happened = events.filter((event) => event.at <= at);
      const { openers: _openers, ...handing } = reduceEvents(happened, '');
      const state = stateOf({
        ...handing,
        written: lastUntil(sittings, at),
        attached: null,
        scored: lastUntil(scores, at),
        due: null,
        allowance: null,
      });
      counts[chartedAs(state)]++;
    }
    return counts;
  });
}

/** So many moments from one to another, both included: no closer than an hour. */
export function momentsBetween(from: number, to: number, most: number): number[] {
  const hours = Math.max(1, Math.ceil((to - from) / 3_600_000));
  const count = Math.min(most, hours);
  return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
}
