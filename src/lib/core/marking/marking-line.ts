import type { CopyRow } from '../copy/copy-row';
import { stateOf } from '../copy/state';

/** The orders in which a teacher goes through the copies of an assignment, with what they are called. */
export const LINE_ORDERS = {
  waiting: 'Longest waiting',
  name: 'By name',
  group: 'By group',
} as const;
export type LineOrder = keyof typeof LINE_ORDERS;

/** A copy of the line, with whom it is of and, where the class has groups, their group. */
export interface InLine {
  copy: Pick<CopyRow, 'id' | 'facts'>;
  name: string;
  group: string;
  /** Who marks it; nobody where copies are not dealt. */
  markers?: readonly { id: string; name: string }[];
  /** Whoever goes through the line marks it apart from another, and has. */
  given?: boolean;
}

/** Whether a copy waits to be marked. */
export const isToMark = ({ copy, given }: Pick<InLine, 'copy' | 'given'>): boolean =>
  stateOf(copy.facts) === 'handed in' && !given;

/** Whether a copy is dealt to somebody. */
export const isDealtTo = ({ markers }: Pick<InLine, 'markers'>, person: string): boolean =>
  !!markers?.some(({ id }) => id === person);

/** Since when a copy is with the teacher and not marked; Infinity for others, which come last. */
const waitsSince = (one: InLine) =>
  isToMark(one) ? (one.copy.facts.handedIn ?? Infinity) : Infinity;

/** The ids of the copies in order; those that are equal stay as they are, by name. Who is in no group comes last. */
export function lineUp(copies: readonly InLine[], order: LineOrder): string[] {
  const compare: Record<LineOrder, (a: InLine, b: InLine) => number> = {
    name: () => 0,
    waiting: (a, b) => {
      const [first, second] = [waitsSince(a), waitsSince(b)];
      return first === second ? 0 : first - second;
    },
    group: (a, b) =>
      Number(a.group === '') - Number(b.group === '') ||
      a.group.localeCompare(b.group, 'en', { numeric: true }),
  };
  return [...copies].sort(compare[order]).map(({ copy }) => copy.id);
}

/**
 * The copies as they stand in a line that was formed before, which does not move while somebody goes through it: what came
 * since stands at its end.
 * @param unmarkedOnly leaves out what does not wait to be marked, but for the copy that is looked at
 * @param dealtTo leaves out what is dealt to others than this person, if anything is dealt to them; null for nothing
 */
export function inLine<T extends InLine>(
  copies: readonly T[],
  formed: readonly string[],
  {
    unmarkedOnly,
    dealtTo,
    current,
  }: { unmarkedOnly: boolean; dealtTo: string | null; current: string },
): T[] {
  const own = dealtTo !== null && copies.some((one) => isDealtTo(one, dealtTo));
  const place = new Map(formed.map((id, index) => [id, index]));
  const at = ({ copy }: T) => place.get(copy.id) ?? formed.length;
  return copies
    .filter(
      (one) =>
        one.copy.id === current ||
        ((!unmarkedOnly || isToMark(one)) && (!own || isDealtTo(one, dealtTo))),
    )
    .sort((a, b) => at(a) - at(b));
}

/**
 * The copy before or after one in a line. After the last comes the first that still waits to be marked.
 * @returns null for none
 */
export function besideInLine<T extends InLine>(
  line: readonly T[],
  current: string,
  by: 1 | -1,
): T | null {
  const index = line.findIndex(({ copy }) => copy.id === current) + by;
  if (by < 0 || index < line.length) return line[index] ?? null;
  return line.find((one) => isToMark(one) && one.copy.id !== current) ?? null;
}

/** Where somebody goes on: at the copy where they were, or, when that is marked, at the next one that waits. */
export function goOnAt(line: readonly InLine[], was: string | null): string | null {
  const found = line.find(({ copy }) => copy.id === was);
  if (found && isToMark(found)) return found.copy.id;
  const from = found ? line.indexOf(found) : 0;
  const next = line.slice(from).find(isToMark) ?? line.find(isToMark) ?? found ?? line[0];
  return next?.copy.id ?? null;
}
