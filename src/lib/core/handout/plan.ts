import { writePoints } from '../marking/points';

export interface HandoutPlan {
  /** The students who get a copy, by id. */
  students: readonly string[];
  /** What will happen, in sentences. */
  sentences: string[];
  /** What may surprise; said before, never refused. */
  oddities: string[];
}

export interface HandoutWish {
  className: string;
  students: readonly { id: string; name: string }[];
  guarded: boolean;
  points: string | null;
  parts: number;
  /** Epoch milliseconds; null for no due time. */
  due: number | null;
  now: number;
  /** Whether the due time is the end of one of the class's lessons. */
  dueAtLesson: boolean;
  /** "00:00" of the school's clock. */
  dueClock: string;
}

const count = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`);

/** What *one each* will do. The hand-out itself uses the same `students`. */
export function planOneEach(wish: HandoutWish): HandoutPlan {
  const n = wish.students.length;
  const sentences = [
    n === 0
      ? `Nobody is in ${wish.className} yet, so no copy will be made.`
      : n === 1
        ? `1 copy will be made, named for ${wish.students[0]?.name}.`
        : `${n} copies will be made, each named for its student in ${wish.className}.`,
    wish.guarded
      ? `Your text on the page is guarded: answers go in ${count(wish.parts, 'place', 'places')}.`
      : 'Your text is not guarded: students can change all of the page.',
  ];
  if (wish.points !== null) sentences.push(`It counts for ${writePoints(wish.points)} points.`);
  const oddities: string[] = [];
  if (wish.guarded && wish.parts === 0)
    oddities.push(
      'The page has no place for an answer, and its text is guarded: nobody could write on it.',
    );
  if (wish.due !== null && wish.due <= wish.now) oddities.push('It is due in the past.');
  else if (wish.due !== null && wish.dueClock === '00:00')
    oddities.push('It is due at midnight, when the reminder would wake people.');
  else if (wish.due !== null && !wish.dueAtLesson)
    oddities.push(`It is due at ${wish.dueClock}, when ${wish.className} has no lesson.`);
  return { students: wish.students.map((student) => student.id), sentences, oddities };
}
