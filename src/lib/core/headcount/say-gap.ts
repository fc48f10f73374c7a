import { sayClock, sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';
import type { Cause, Gap } from './gap';
import { sayLost } from './level';
import type { Deed } from './remedy';

/** A cause as the head of a list. */
export const CAUSE_SAYS: Record<Cause, string> = {
  'never made': 'Never made',
  removed: 'Removed',
  emptied: 'Emptied',
  'pasted over': 'Pasted over',
  'worked elsewhere': 'Worked elsewhere',
  'wrong assignment': 'Handed in on the wrong assignment',
  attached: 'Attached, not handed in',
  'cannot be read': 'A file that cannot be read',
  'cannot be opened': 'A link that others cannot open',
  left: 'Left the class with work open',
};

/** What stands in a cell of a table. */
export const CAUSE_IN_CELL: Record<Cause, string> = {
  'never made': 'no copy',
  removed: 'removed',
  emptied: 'emptied',
  'pasted over': 'pasted over',
  'worked elsewhere': 'elsewhere',
  'wrong assignment': 'wrong assignment',
  attached: 'not handed in',
  'cannot be read': 'unreadable',
  'cannot be opened': 'link closed',
  left: 'left',
};

/** What a deed is called on its button. */
const DEED_SAYS: Record<Deed, string> = {
  give: 'Make the copy',
  'put back': 'Restore',
  move: 'Move it here',
  remind: 'Remind',
  ask: 'Ask first',
  look: 'Check again',
  collect: 'Hand in for them',
  excuse: 'Excuse',
  accept: 'Accept as it is',
};
export function sayDeed(deed: Deed, { cause }: Pick<Gap, 'cause'>): string {
  if (deed === 'give' && cause === 'removed') return 'Bring it back';
  if (deed === 'ask' && cause === 'cannot be read') return 'Ask for it again';
  if (deed === 'ask' && cause === 'cannot be opened') return 'Ask to open it';
  return DEED_SAYS[deed];
}

/** A deed for several gaps of a cause. */
export function sayDeedForAll(deed: Deed, { cause }: Pick<Gap, 'cause'>, count: number): string {
  switch (deed) {
    case 'give':
      return cause === 'removed' ? `Bring back all ${count}` : `Make all ${count}`;
    case 'move':
      return `Move all ${count} here`;
    case 'collect':
      return `Hand in all ${count}`;
    case 'look':
      return `Check all ${count}`;
    case 'ask':
      return `Ask all ${count}`;
    default:
      return `${DEED_SAYS[deed].split(' ')[0]} all ${count}`;
  }
}

/** What happened, as short as a line of a list. */
export function sayBriefly(gap: Gap, timeZone: string): string {
  const { since, loss, attached, elsewhere, words } = gap;
  const time = since === null ? '' : sayTime(since, timeZone);
  switch (gap.cause) {
    case 'never made':
      return time && `joined ${time}`;
    case 'removed':
      return [counted(words, 'word'), time].filter(Boolean).join(', ');
    case 'emptied':
      return loss ? `${sayLost(loss)} gone in one sitting, ${time}` : time;
    case 'pasted over':
      return `replaced by a paste, ${time}`;
    case 'worked elsewhere':
    case 'wrong assignment':
      return `on “${elsewhere?.title ?? ''}”, ${counted(elsewhere?.words ?? 0, 'word')}`;
    case 'attached':
    case 'cannot be read':
    case 'cannot be opened':
      return `${listed(attached)}, since ${time}`;
    case 'left':
      return `left ${time}, ${counted(words, 'word')}`;
  }
}

/** What happened, as far as it is known. @param who "Isla Abernathy", or all who share it */
export function sayGap(gap: Gap, who: string, timeZone: string): string {
  const { since, words, loss, attached, elsewhere } = gap;
  const time = since === null ? '' : sayTime(since, timeZone);
  const stands = `${counted(words, 'word')} ${words === 1 ? 'stands' : 'stand'} in it`;
  switch (gap.cause) {
    case 'never made':
      return `${who} has no copy of it${time && `; they joined on ${time}`}.`;
    case 'removed':
      return `It was removed${time && ` on ${time}`}. ${stands}.`;
    case 'emptied':
      return `On ${time} it went from ${loss ? sayLost(loss) : 'all'} to ${loss?.left ?? 0} in one sitting.`;
    case 'pasted over':
      return `On ${time} ${loss ? sayLost(loss) : 'the words'} gave way to a paste of ${loss?.pasted ?? 0}.`;
    case 'worked elsewhere':
      return `${who} has a copy with nothing in it, and wrote it on ${elsewhere?.assignment === null ? 'their own page' : 'the copy of'} “${elsewhere?.title ?? ''}”, last on ${time}.`;
    case 'wrong assignment':
      return `${who} has a copy with nothing in it, and handed it in as “${elsewhere?.title ?? ''}”, last written on ${time}.`;
    case 'attached':
      return `${who} attached ${listed(attached)} on ${time}, and has not handed in.`;
    case 'cannot be read':
      return `${who} attached ${listed(attached)} on ${time}. Uncia cannot read it.`;
    case 'cannot be opened':
      return `${who} attached ${listed(attached)} on ${time}. Others cannot open it.`;
    case 'left':
      return `${who} left the class on ${time}. ${stands}, which were not handed back.`;
  }
}

/** What a deed will do. @param who "Isla Abernathy", or all who share it */
export function sayRemedy(gap: Gap, deed: Deed, who: string, timeZone: string): string {
  const { loss, words, elsewhere } = gap;
  switch (deed) {
    case 'give':
      return gap.cause === 'removed'
        ? 'It comes back as it was, with all that is written in it.'
        : `A copy will be made for ${who}, as the others got it.`;
    case 'put back':
      return [
        `The page comes back as it stood before ${loss ? sayClock(loss.at, timeZone) : ''}, with ${loss ? sayLost(loss) : 'all'}.`,
        words > 0 ? 'What was written since stays below it.' : '',
        `How it stands now is kept with it, and ${who} will be notified.`,
      ]
        .filter(Boolean)
        .join(' ');
    case 'move':
      return [
        elsewhere?.hasOwnWork
          ? `A copy of “${elsewhere.title}”, with its history, takes the place of the empty one; the page itself stays where it is, for it holds other answers, too.`
          : `“${elsewhere?.title ?? ''}”, with its history, takes the place of the empty copy.`,
        elsewhere && elsewhere.assignment !== null && !elsewhere.hasOwnWork
          ? `${who} gets an empty copy there.`
          : '',
        elsewhere?.handedIn ? 'It counts as handed in when it was.' : '',
      ]
        .filter(Boolean)
        .join(' ');
    case 'remind':
      return `${who} will get a reminder to hand it in.`;
    case 'ask':
      if (gap.cause === 'cannot be read')
        return `${who} will get a message that asks for it as a PDF or a picture.`;
      if (gap.cause === 'cannot be opened')
        return `${who} will get a message that asks to let others open it, or to attach a file.`;
      return `${who} will get a message that asks what happened.`;
    case 'look':
      return 'The link is opened once more, as somebody who is signed in nowhere.';
    case 'collect':
      return `It counts as handed in now, for ${who}.`;
    case 'excuse':
      return `${who} need not do it, and gets no copy.`;
    case 'accept':
      return 'It stays as it is, and is no gap any more until something changes.';
  }
}

/** What was done, of so many gaps. */
export function sayMended(deed: Deed, cause: Cause, count: number): string {
  const one = count === 1;
  switch (deed) {
    case 'give':
      if (cause === 'removed') return one ? 'The copy is back.' : `${count} copies are back.`;
      return one ? 'The copy is made.' : `${count} copies are made.`;
    case 'put back':
      return one ? 'The page is restored.' : `${count} pages are restored.`;
    case 'move':
      return one ? 'The work is where it belongs.' : `${count} pages are where they belong.`;
    case 'remind':
      return one ? 'They were reminded.' : `${counted(count, 'student')} were reminded.`;
    case 'ask':
      return one ? 'They were asked.' : `${counted(count, 'student')} were asked.`;
    case 'look':
      return one ? 'The link is looked at.' : `${count} links are looked at.`;
    case 'collect':
      return one ? 'It is handed in.' : `${count} are handed in.`;
    case 'excuse':
      return one ? 'They are excused.' : `${counted(count, 'student')} are excused.`;
    case 'accept':
      return one ? 'It is accepted as it is.' : `${count} are accepted as they are.`;
  }
}

/** A headcount in a sentence: "24 copies should be there, 22 are, 3 of them have lost their work, 2 wait to be handed in". */
export function sayCount(
  { expected, there }: { expected: number; there: number },
  gaps: readonly Gap[],
): string {
  const some = (...causes: Cause[]) => gaps.filter(({ cause }) => causes.includes(cause)).length;
  const parts = [
    `${counted(expected, 'copy', 'copies')} should be there, ${there} ${there === 1 ? 'is' : 'are'}`,
  ];
  const places = some('never made');
  if (expected === there && places > 0)
    parts.push(`${counted(places, 'student')} ${places === 1 ? 'has' : 'have'} no part in them`);
  const lost = some('emptied', 'pasted over');
  if (lost > 0)
    parts.push(`${lost} of them ${lost === 1 ? 'has lost its' : 'have lost their'} work`);
  const apart = some('worked elsewhere', 'wrong assignment');
  if (apart > 0) parts.push(`${apart} ${apart === 1 ? 'was' : 'were'} written elsewhere`);
  const waits = some('attached');
  if (waits > 0) parts.push(`${waits} ${waits === 1 ? 'waits' : 'wait'} to be handed in`);
  const closed = some('cannot be read', 'cannot be opened');
  if (closed > 0) parts.push(`${closed} cannot be opened`);
  const gone = some('left');
  if (gone > 0) parts.push(`${gone} ${gone === 1 ? 'was' : 'were'} left by who is gone`);
  return parts.join(', ');
}
