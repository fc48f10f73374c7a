import { writePoints } from '../marking/points';
import type { HandOutWish } from './wish';

const sayDue = ({ due }: Pick<HandOutWish, 'due'>): string =>
  due.kind === 'none'
    ? 'never'
    : due.kind === 'at'
      ? due.local.replace('T', ', ')
      : `at the end of lesson ${due.nth}`;

/** What a hand-out says, so that two of them can be compared by a person. */
export const describeHandOut = (wish: HandOutWish): Map<string, string> =>
  new Map([
    ['Title', wish.title],
    ['Instructions', wish.instructions],
    ['Points', wish.points === null ? 'none' : writePoints(wish.points)],
    ['Due', sayDue(wish)],
    ['Pages', wish.originals.map(({ delivery }) => delivery).join(', ')],
    ['Classes', String(wish.classes.length)],
    ['For whom', wish.only ? `${wish.only.length} chosen` : `all but ${wish.without.length}`],
    ['Category', wish.category],
    ['Guarded', wish.guarded ? 'yes' : 'no'],
    ['Late work', wish.late],
    ['Reminder, minutes before', wish.reminder === null ? 'none' : String(wish.reminder)],
  ]);
