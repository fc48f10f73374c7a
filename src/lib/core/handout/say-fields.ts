import { sayTime } from '../calendar/say-time';
import { writePoints } from '../marking/points';
import type { HandOutWish } from './wish';

interface ClassDue {
  name: string;
  /** Epoch milliseconds; null for never. */
  was: number | null;
  becomes: number | null;
}

const points = (of: string | null) => (of === null ? 'no points' : `${writePoints(of)} points`);

/** What changes of an assignment besides its copies, in sentences. */
export function sayFields(
  was: HandOutWish,
  becomes: HandOutWish,
  dues: readonly ClassDue[],
  timeZone: string,
): string[] {
  const sentences: string[] = [];
  const time = (at: number | null) =>
    at === null ? 'without a due time' : `due ${sayTime(at, timeZone)}`;
  if (was.title !== becomes.title) sentences.push(`It will be called “${becomes.title}”.`);
  if (was.instructions !== becomes.instructions)
    sentences.push('What you say to them will change.');
  for (const due of dues)
    if (due.was !== due.becomes)
      sentences.push(`In ${due.name} it will be ${time(due.becomes)}, not ${time(due.was)}.`);
  if (was.points !== becomes.points)
    sentences.push(
      `It will count for ${points(becomes.points)}, not ${points(was.points)}; points that were given stay as they are.`,
    );
  if (was.rubric !== becomes.rubric) sentences.push('It will be scored by another rubric.');
  if (was.category !== becomes.category)
    sentences.push(
      becomes.category
        ? `It will count as “${becomes.category}”.`
        : 'It will count as nothing in particular.',
    );
  if (was.guarded !== becomes.guarded)
    sentences.push(
      becomes.guarded ? 'Your text will be guarded.' : 'Your text will not be guarded any more.',
    );
  if (was.late !== becomes.late)
    sentences.push(
      becomes.late === 'taken'
        ? 'It will be taken after its due time.'
        : 'After its due time it will not be taken any more.',
    );
  if (was.reminder !== becomes.reminder) sentences.push('The reminder will come at another time.');
  return sentences;
}
