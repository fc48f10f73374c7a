import { sayClock, sayTime } from '../calendar/say-time';
import { openLoss, type CopyRow } from '../copy/copy-row';
import { counted } from '../lists/counted';
import { sayLost, type Loss } from './level';

/** A gap as a view shows it. Instants in epoch milliseconds. */
export interface GapView {
  cause: 'never made' | 'removed' | 'emptied';
  assignment: string;
  /** The assignment's original that the copy stands for, or would. */
  for: string;
  class: string;
  /** Null where none was made. */
  copy: string | null;
  /** Who lacks it, or whose it is. */
  students: string[];
  /** When they joined, when it was removed, when it was emptied. */
  since: number | null;
  /** How many words stand in it. */
  words: number;
  loss: Loss | null;
}

/** The gaps of a board that is patched: what is missing as it was counted, what was emptied as its copies stand now. */
export const gapsNow = (
  counts: readonly { gaps: readonly GapView[] }[],
  copies: readonly CopyRow[],
): GapView[] => [
  ...counts.flatMap(({ gaps }) => gaps.filter(({ cause }) => cause !== 'emptied')),
  ...copies.flatMap((copy) => gapOf(copy) ?? []),
];

function gapOf(copy: CopyRow): GapView | null {
  const loss = openLoss(copy);
  return (
    loss && {
      cause: 'emptied',
      assignment: copy.assignment,
      for: copy.for,
      class: copy.class,
      copy: copy.id,
      students: copy.members,
      since: loss.at,
      words: copy.words,
      loss,
    }
  );
}

/** What happened, as far as it is known. @param who "Isla Abernathy", or all who share it */
export function sayGap({ cause, since, words, loss }: GapView, who: string, timeZone: string) {
  const time = since === null ? '' : sayTime(since, timeZone);
  switch (cause) {
    case 'never made':
      return `${who} has no copy of it${time && `; they joined on ${time}`}.`;
    case 'removed':
      return `It was removed${time && ` on ${time}`}. ${counted(words, 'word')} ${words === 1 ? 'stands' : 'stand'} in it.`;
    case 'emptied':
      return `On ${time} it went from ${loss ? sayLost(loss) : 'all'} to ${loss?.left ?? 0} in one sitting.`;
  }
}

/** What the remedy will do. */
export function sayRemedy({ cause, loss }: GapView, who: string, timeZone: string): string {
  switch (cause) {
    case 'never made':
      return `A copy will be made for ${who}, as the others got it.`;
    case 'removed':
      return 'It comes back as it was, with all that is written in it.';
    case 'emptied':
      return `The page comes back as it stood before ${loss ? sayClock(loss.at, timeZone) : ''}, with ${loss ? sayLost(loss) : 'all'}. How it stands now is kept with it, and ${who} will be notified.`;
  }
}
