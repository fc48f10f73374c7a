import { sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import { writePoints } from '../marking/points';
import type { ChangeFact } from './change-facts';
import type { Delivery } from './spec';

const HOW: Record<Delivery, string> = {
  'to read': 'to read',
  'one for all': 'shared by the class',
  'one per group': 'shared by a group',
  'one each': 'one each',
};

/** A fact of a change in words. @param timeZone of the school's clock */
export function sayChangeFact(fact: ChangeFact, timeZone: string): string {
  const due = (at: number | null) =>
    at === null ? 'without a due time' : `due ${sayTime(at, timeZone)}`;
  const points = (of: string | null) => (of === null ? 'no points' : `${writePoints(of)} points`);
  switch (fact.kind) {
    case 'made': {
      const { pages, fromShared } = fact;
      const begins =
        fromShared > 0
          ? `; ${fromShared === pages ? 'each begins' : `${fromShared} begin`} as the shared page stands now`
          : '';
      return `${counted(pages, 'new page')} will be made, ${HOW[fact.delivery]}, for ${counted(fact.students, 'student')}${begins}.`;
    }
    case 'brought back':
      return `${counted(fact.pages, 'earlier page')} will come back as ${fact.pages === 1 ? 'it was' : 'they were'}.`;
    case 'kept to read':
      return `${counted(fact.pages, 'page')} will be kept for ${counted(fact.students, 'student')} to read, and written in no longer.`;
    case 'out of sight':
      return `${counted(fact.pages, 'page')} will go out of sight${fact.begun > 0 ? `, ${fact.begun} of them begun` : ''}; nothing in ${fact.pages === 1 ? 'it' : 'them'} is lost.`;
    case 'other members':
      return `${counted(fact.pages, 'shared page')} will have other people in ${fact.pages === 1 ? 'it' : 'them'}.`;
    case 'to another class':
      return `${counted(fact.copies, 'copy', 'copies')} will go along to another class.`;
    case 'title':
      return `It will be called “${fact.becomes}”.`;
    case 'instructions':
      return 'The instructions will change.';
    case 'due':
      return `In ${fact.class} it will be ${due(fact.becomes)}, not ${due(fact.was)}.`;
    case 'points':
      return `It will count for ${points(fact.becomes)}, not ${points(fact.was)}; points that were given stay as they are.`;
    case 'more points':
      return `${counted(fact.copies, 'copy has', 'copies have')} more than ${writePoints(fact.becomes)} points. ${fact.copies === 1 ? 'It keeps' : 'They keep'} what was given.`;
    case 'rubric':
      return 'It will be scored by another rubric.';
    case 'category':
      return fact.becomes ? `Its category will be “${fact.becomes}”.` : 'It will have no category.';
    case 'guarded':
      return fact.becomes
        ? 'Your text will be guarded.'
        : 'Your text will not be guarded any more.';
    case 'late':
      return fact.becomes === 'taken'
        ? 'It will be taken after its due time.'
        : 'After its due time it will not be taken any more.';
    case 'hand in':
      return fact.becomes === 'each'
        ? 'Each of those who share it will say when they are done; with the last of them it is handed in.'
        : 'One of those who share it will hand it in for all.';
    case 'marking':
      return {
        'by hand': 'What is handed in from now on will be marked by a teacher.',
        'by key': 'What is handed in from now on will be marked by the answer keys.',
        'by key, handed back':
          'What is handed in from now on will be marked by the answer keys and handed back at once.',
      }[fact.becomes];
    case 'reminder':
      return 'The reminder will come at another time.';
    case 'withdrawn':
      return `It will be withdrawn from ${fact.class}; nothing in its copies is lost.`;
    case 'corrected':
      return `${counted(fact.copies, 'copy', 'copies')} will have the corrected text${fact.begun > 0 ? `, ${fact.begun} of them begun; what is written in them stays` : ''}.`;
    case 'not corrected': {
      const { copies, names } = fact;
      return `In ${counted(copies, 'copy', 'copies')} something that was corrected has been written in, and stays as it is: ${names.join(', ')}${copies > names.length ? ' and others' : ''}.`;
    }
    case 'not corrected: handed in':
      return `${counted(fact.copies, 'copy is', 'copies are')} handed in and ${fact.copies === 1 ? 'stays as it is' : 'stay as they are'}.`;
    case 'sentence':
      return fact.text;
  }
}
