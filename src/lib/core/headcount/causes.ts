import type { CopyRow } from '../copy/copy-row';
import { asksForWork, stateOf } from '../copy/state';
import { PAUSE } from '../history/sittings';
import type { PlannedCopy } from '../handout/plan';
import type { Elsewhere, Gap } from './gap';
import { isPastedOver } from './level';

/** Each cause of a gap, from what is known of a copy; null where there is none. Instants in epoch milliseconds. */

/** A copy that was handed out, whoever sees it, as far as its absence is told from it. */
export interface CountedCopy {
  id: string;
  assignment: string;
  for: string;
  class: string;
  members: readonly string[];
  words: number;
  /** Since when it is out of its students' sight. */
  away: number | null;
  /** When its one student left the class. */
  left: number | null;
  /** Whether there is work in it that was not handed back since. */
  isOpen: boolean;
  /** When one of the staff accepted it as it is. */
  accepted: number | null;
}

const NOTHING = { since: null, words: 0, loss: null, attached: [], elsewhere: null };

/** Staff have seen it as it is now, and let it be. */
const isAccepted = (accepted: number | null, since: number) =>
  accepted !== null && accepted >= since;

/** What a gap says of the copy that it is about. */
const ofCopy = ({
  id: copy,
  assignment,
  for: page,
  class: of,
  members,
  words,
}: Pick<CountedCopy, 'id' | 'assignment' | 'for' | 'class' | 'members' | 'words'>) => ({
  ...NOTHING,
  assignment,
  for: page,
  class: of,
  copy,
  students: members,
  words,
});

/** Somebody has no copy, or no place in a page that others share: they joined late, or the hand-out did not reach them. */
export const neverMade = (
  { for: page, class: of, members }: Pick<PlannedCopy, 'for' | 'class' | 'members'>,
  { assignment, excused, joined }: NeverMade,
): Gap | null =>
  members.length > 0 && members.every((id) => excused.has(id))
    ? null
    : {
        ...NOTHING,
        cause: 'never made',
        assignment,
        for: page,
        class: of,
        copy: null,
        students: members,
        since: joined(members[0] ?? ''),
      };
interface NeverMade {
  assignment: string;
  /** Who need not do it. */
  excused: ReadonlySet<string>;
  /** When somebody came into the class. */
  joined: (student: string) => number | null;
}

/** It is out of its students' sight. */
export const removed = (copy: CountedCopy): Gap | null =>
  isAccepted(copy.accepted, copy.away ?? 0)
    ? null
    : { ...ofCopy(copy), cause: 'removed', since: copy.away };

/** Its student left the class, and there is work in it that nobody gave back. */
export const left = (copy: CountedCopy): Gap | null =>
  copy.left === null || !copy.isOpen || isAccepted(copy.accepted, copy.left)
    ? null
    : { ...ofCopy(copy), cause: 'left', since: copy.left };

type Told = Pick<
  CopyRow,
  'id' | 'assignment' | 'class' | 'for' | 'members' | 'words' | 'loss' | 'attached' | 'facts'
>;

/** What went of a copy at once, where nobody accepted that since. */
const openLoss = ({ loss, facts }: Pick<Told, 'loss' | 'facts'>) =>
  loss && !isAccepted(facts.accepted, loss.at) ? loss : null;

function lost(copy: Told, cause: 'emptied' | 'pasted over'): Gap | null {
  const loss = openLoss(copy);
  const isCause = loss && isPastedOver(loss) === (cause === 'pasted over');
  return isCause ? { ...ofCopy(copy), cause, since: loss.at, loss } : null;
}

/** Its words, or its strokes, fell below a fifth of what they were in one sitting. */
export const emptied = (copy: Told): Gap | null => lost(copy, 'emptied');

/** Other words were pasted in the place of what stood there. */
export const pastedOver = (copy: Told): Gap | null => lost(copy, 'pasted over');

const sinceOf = (some: readonly { at: number }[]) => Math.max(...some.map(({ at }) => at));

/** Something is attached, and the sitting in which it was ended without handing in. */
export function attachedOnly(copy: Told, now: number): Gap | null {
  const { attached, facts } = copy;
  if (stateOf(facts) !== 'attached' || attached.length === 0) return null;
  const since = sinceOf(attached);
  return now - since < PAUSE
    ? null
    : { ...ofCopy(copy), cause: 'attached', since, attached: attached.map(({ name }) => name) };
}

function found(copy: Told, cause: 'cannot be read' | 'cannot be opened'): Gap | null {
  const some = copy.attached.filter((one) => one.found === cause);
  const since = sinceOf(some);
  return some.length === 0 || isAccepted(copy.facts.accepted, since)
    ? null
    : { ...ofCopy(copy), cause, since, attached: some.map(({ name }) => name) };
}

/** A file is attached that nothing here can read. */
export const cannotBeRead = (copy: Told): Gap | null => found(copy, 'cannot be read');

/** A link is attached that others cannot open. */
export const cannotBeOpened = (copy: Told): Gap | null => found(copy, 'cannot be opened');

/** Nothing is in it: nothing written, drawn, chosen or attached. */
export const isBlank = (
  copy: Pick<CopyRow, 'mask' | 'facts' | 'attached' | 'student' | 'replaced' | 'delivery'>,
): boolean =>
  copy.student !== null &&
  asksForWork(copy) &&
  !copy.mask.includes('1') &&
  copy.attached.length === 0 &&
  copy.facts.allowance !== 'excused' &&
  ['unopened', 'opened'].includes(stateOf(copy.facts));

function elsewhere(
  copy: Told,
  pages: readonly Elsewhere[],
  cause: 'worked elsewhere' | 'wrong assignment',
): Gap | null {
  const fits = pages
    .filter(({ handedIn, assignment }) =>
      cause === 'wrong assignment' ? handedIn !== null && assignment !== null : handedIn === null,
    )
    .filter(({ written }) => !isAccepted(copy.facts.accepted, written))
    .sort((a, b) => b.words - a.words);
  const [page] = fits;
  return page ? { ...ofCopy(copy), cause, since: page.written, elsewhere: page } : null;
}

/** Its student wrote it on an own page, or on another assignment's copy: pages that carry this original's text. */
export const workedElsewhere = (copy: Told, pages: readonly Elsewhere[]): Gap | null =>
  elsewhere(copy, pages, 'worked elsewhere');

/** Its student handed it in as another assignment's copy. */
export const wrongAssignment = (copy: Told, pages: readonly Elsewhere[]): Gap | null =>
  elsewhere(copy, pages, 'wrong assignment');

/** Every gap that a copy's own row tells. @param now epoch milliseconds */
export const gapsOfCopy = (copy: Told, now: number): Gap[] =>
  [
    emptied(copy),
    pastedOver(copy),
    attachedOnly(copy, now),
    cannotBeRead(copy),
    cannotBeOpened(copy),
  ].filter((gap) => gap !== null);
