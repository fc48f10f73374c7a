import { writePoints } from '../marking/points';
import { isSharedByClass, type HandOutSpec } from './spec';

const sayDue = ({ due }: Pick<HandOutSpec, 'due'>): string =>
  due.kind === 'none'
    ? 'never'
    : due.kind === 'at'
      ? due.local.replace('T', ', ')
      : `at the end of lesson ${due.nth}`;

/** What a hand-out says, so that two of them can be compared by a person. */
export const describeHandOut = (spec: HandOutSpec): Map<string, string> =>
  new Map([
    ['Title', spec.title],
    ['Instructions', spec.instructions],
    ['Points', spec.points === null ? 'none' : writePoints(spec.points)],
    ['Due', sayDue(spec)],
    ['Pages', spec.originals.map(({ delivery }) => delivery).join(', ')],
    ['Classes', String(spec.classes.length)],
    ['For whom', spec.only ? `${spec.only.length} chosen` : `all but ${spec.without.length}`],
    ['Category', spec.category],
    ['Guarded', spec.guarded ? 'yes' : 'no'],
    ...(isSharedByClass(spec)
      ? [['Handed in', spec.handIn === 'each' ? 'once each is done' : 'by one for all'] as const]
      : []),
    ['Marked', spec.marking],
    ['Late work', spec.late],
    ['Reminder, minutes before', spec.reminder === null ? 'none' : String(spec.reminder)],
  ]);
