import { sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import type { OpenMatter } from './open-matters';

/** Kinds of open matters in the order in which they are shown: what they are, and what becomes of those that are left. */
export const MATTERS: Record<OpenMatter['kind'], { title: string; left: string }> = {
  'to mark': { title: 'Handed in, and not marked', left: 'they stay without points' },
  'kept back': {
    title: 'Points that are kept back',
    left: 'no student sees these points, and they count in no total',
  },
  'written in again': {
    title: 'Written in again after handing back',
    left: 'the points that were handed back stand',
  },
  'not handed in': {
    title: 'Never handed in',
    left: 'they count as the gradebook says of what is missing',
  },
  'not collected': {
    title: 'Files that wait to be collected',
    left: 'they are on no copy, and in no archive',
  },
  gap: { title: 'Copies that are missing, or were emptied', left: 'they stay as they are' },
  'not handed out': {
    title: 'Not handed out',
    left: 'they stay drafts, and nothing goes out by itself any more',
  },
  'asked to join': { title: 'Asked to join the class', left: 'they are not asked any more' },
};

/** How much of it there is, or how it stands. @param timeZone of the school's clock */
export function sayMatter(matter: OpenMatter, timeZone: string): string {
  switch (matter.kind) {
    case 'to mark':
    case 'kept back':
    case 'written in again':
    case 'not handed in':
      return counted(matter.copies.length, 'copy', 'copies');
    case 'not collected':
      return counted(matter.files, 'file');
    case 'gap':
      return counted(matter.students, 'student');
    case 'not handed out':
      return matter.goesOut === null ? 'a draft' : `goes out ${sayTime(matter.goesOut, timeZone)}`;
    case 'asked to join':
      return 'has not answered';
  }
}
