import { isPlannedYear } from '../calendar/local-time';
import type { CopyFlags, CopyState } from '../copy/state';

/** What a board's cells show. */
export const LENSES = ['work', 'gaps', 'points', 'hours'] as const;
export type Lens = (typeof LENSES)[number];

const STATES = [
  'unopened',
  'opened',
  'working',
  'attached',
  'handed in',
  'marked',
  'handed back',
  'revising',
] as const satisfies readonly CopyState[];
const FLAGS = [
  'unread',
  'now',
  'late',
  'overdue',
  'extension',
  'excused',
] as const satisfies readonly (keyof CopyFlags)[];

/** What cells can be chosen by: the states of a copy, and the flags beside them. */
export const MARKS = [...STATES, ...FLAGS] as const;
export type Mark = (typeof MARKS)[number];

/** A mark in words. */
export const sayMark = (mark: Mark): string => {
  switch (mark) {
    case 'unread':
      return 'changed since you looked';
    case 'now':
      return 'writing now';
    case 'extension':
      return 'with an extension';
    default:
      return mark;
  }
};

/** How somebody looks at a board. All of it stands in the address, so that it can be kept and sent. */
export interface BoardView {
  lens: Lens;
  /** By name; by who has begun least; by who has not changed anything for longest; or by a grouping, by its id. */
  order: string;
  /** Cells of these states or flags alone; of all where there is none. */
  marks: readonly Mark[];
  /** A unit's id alone, or `none` for what is in no unit; all where it is empty. */
  unit: string;
  /** A group alone, as `groupKey` says; all students where it is empty. */
  group: string;
  /** Columns that are finished and shown all the same, as `columnKey` says. */
  open: readonly string[];
  /** Where gaps are shown: those of this assignment alone, by its id; all where it is empty. */
  of: string;
  /** The moment that it is looked back to, in epoch milliseconds; null for now. */
  at: number | null;
}

/** A moment as an address has it: "2026-10-14T13:50:00.000Z". */
export const writeMoment = (at: number): string => new Date(at).toISOString();

/** The moment of an address; null for none. */
export function readMoment(text: string | null): number | null {
  const at = Date.parse(text ?? '');
  return Number.isNaN(at) || !isPlannedYear(new Date(at).getUTCFullYear()) ? null : at;
}

export const BY_NAME = 'name';
export const BY_BEGUN = 'begun';
export const BY_CHANGE = 'still';

export const groupKey = (grouping: string, name: string): string => `${grouping} ${name}`;

/** Reads a view from an address; what it does not know is left out. */
export function readView(params: URLSearchParams): BoardView {
  const given = (name: string) => params.get(name) ?? '';
  const marks = params.getAll('only');
  return {
    lens: LENSES.find((lens) => lens === given('lens')) ?? 'work',
    order: given('order') || BY_NAME,
    marks: MARKS.filter((mark) => marks.includes(mark)),
    unit: given('unit'),
    group: given('group'),
    open: params.getAll('open'),
    of: given('of'),
    at: readMoment(params.get('at')),
  };
}

/** A view as an address has it: what is as always is left out. */
export function writeView({
  lens,
  order,
  marks,
  unit,
  group,
  open,
  of,
  at,
}: BoardView): URLSearchParams {
  const params = new URLSearchParams();
  if (lens !== 'work') params.set('lens', lens);
  if (order !== BY_NAME) params.set('order', order);
  for (const mark of marks) params.append('only', mark);
  if (unit) params.set('unit', unit);
  if (group) params.set('group', group);
  for (const column of open) params.append('open', column);
  if (of) params.set('of', of);
  if (at !== null) params.set('at', writeMoment(at));
  return params;
}
