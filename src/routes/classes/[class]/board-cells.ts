import type { CopyRow } from '$core/copy/copy-row';
import { asksForWork, flagsOf, isWithTeacher, sayState, stateOf } from '$core/copy/state';
import { writePoints } from '$core/marking/points';
import type { CopyFacts } from '$core/copy/state';

/** A copy as a cell of the board shows it. @param facts its own, or as they are for one of its readers */
export function cellOf(copy: CopyRow, facts: CopyFacts, now: number) {
  const [state, flags] = [stateOf(facts), flagsOf(facts, now)];
  return { ...copy, state, flags, says: sayState(state, flags, copy.mask) };
}
export type BoardCell = ReturnType<typeof cellOf>;

/** How a column stands, as stretches of a line: done, handed in, begun. Shares of a hundred. */
export function stretchesOf(cells: readonly BoardCell[]): { color: string; share: number }[] {
  const share = (test: (cell: BoardCell) => boolean) =>
    (cells.filter(test).length / (cells.length || 1)) * 100;
  return [
    {
      color: 'var(--spruce)',
      share: share(({ state, delivery }) =>
        delivery === 'to read' ? state === 'opened' : ['marked', 'handed back'].includes(state),
      ),
    },
    { color: 'var(--ink)', share: share(({ state }) => state === 'handed in') },
    {
      color: 'var(--ice)',
      share: share(({ state }) => ['working', 'attached', 'revising'].includes(state)),
    },
  ];
}

/** The second line of a cell: how far an overdue one is, its points, or when something happened. */
export function secondLine(cell: BoardCell, sayWhen: (at: number) => string): string {
  if (cell.flags.overdue && cell.mask.includes('1'))
    return `${cell.mask.replaceAll('0', '').length} of ${cell.mask.length}`;
  if (cell.state === 'handed back')
    return cell.points === null ? '' : `${writePoints(cell.points)} points`;
  const at = isWithTeacher(cell.state) ? cell.facts.handedIn : cell.facts.written;
  return at === null ? '' : sayWhen(at);
}

/** All that a cell says, for whoever does not see its marks. */
export const fullLabel = (student: string, title: string, cell: BoardCell): string =>
  [
    `${student}, ${title}: ${cell.says}`,
    cell.points && cell.state !== 'handed in' && `${writePoints(cell.points)} points`,
    cell.student === null && asksForWork(cell) && `shared by ${cell.members.length}`,
    cell.flags.late && 'late',
    cell.flags.extension && 'with an extension',
    cell.flags.unread && 'changed since you looked',
    cell.flags.now && 'writing now',
  ]
    .filter(Boolean)
    .join(', ');
