import { when } from '../calendar/say-time';
import { writePoints } from '../marking/points';
import type { CopyFacts } from './state';

/** What a student's open copy shows of its assignment and of what was allowed. Instants in epoch milliseconds. */
export interface Shown {
  title: string;
  instructions: string;
  points: string | null;
  guarded: boolean;
  late: 'taken' | 'not taken';
  /** Whether each of those who share it says when they are done. */
  each: boolean;
  facts: Pick<CopyFacts, 'due' | 'allowance'>;
}

/** What changed of a copy while its student had it open, a sentence each. */
export function sayWhatChanged(was: Shown, is: Shown, now: number, timeZone: string): string[] {
  const says: string[] = [];
  if (is.title !== was.title) says.push(`It is called “${is.title}” now.`);
  if (is.instructions !== was.instructions) says.push('The instructions are new.');
  const due = sayDue(was.facts, is.facts, now, timeZone);
  if (due) says.push(due);
  if (is.points !== was.points)
    says.push(
      is.points === null
        ? 'It does not count for points any more.'
        : `It counts for ${writePoints(is.points)} points now.`,
    );
  if (is.guarded !== was.guarded)
    says.push(
      is.guarded
        ? 'The page’s own text cannot be changed any more: write in the places for answers.'
        : 'You can write anywhere on the page now.',
    );
  if (is.each !== was.each)
    says.push(
      is.each
        ? 'Each of you says when you are done with it now; with the last of you it is handed in.'
        : 'One of you hands it in for all now.',
    );
  if (is.late !== was.late)
    says.push(
      is.late === 'taken'
        ? 'It is taken after its due time, too.'
        : 'It is not taken any more after its due time.',
    );
  return says;
}

function sayDue(was: Shown['facts'], is: Shown['facts'], now: number, timeZone: string) {
  if (is.due === was.due && is.allowance === was.allowance) return null;
  if (is.allowance === 'excused') return 'You are excused from it.';
  const wasExcused = was.allowance === 'excused' ? 'You are not excused any more. ' : '';
  if (is.due === null) return `${wasExcused}It has no due time any more.`;
  const time = when(is.due, now, timeZone);
  return is.allowance === 'extension'
    ? `${wasExcused}You have until ${time}.`
    : `${wasExcused}It is due ${time} now.`;
}
