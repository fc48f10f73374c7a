import type { NewsHub } from './news-hub';

/** More than these hear of a shared page as their whole class. */
const MOST_NAMED = 60;

interface OfPage {
  student_id: string | null;
  class_id: string | null;
  /** Of a page of a class's own. */
  area?: string | null;
  sharers: readonly string[];
}

/** The class or course whose staff hear of news of a page. */
export const placesThatHear = ({
  class_id,
  course_id,
}: Pick<OfPage, 'class_id'> & { course_id: string | null }): string[] =>
  [class_id, course_id].filter((place) => place !== null);

/** Which students hear of news of a page. */
export function studentsWhoHear({ student_id, class_id, area, sharers }: OfPage): {
  students?: readonly string[];
  studentsOf?: string;
} {
  // Of a class's own pages all its students hear, but for those that staff alone open.
  const isForAll = area !== undefined && area !== null && area !== 'cupboard';
  if (class_id !== null && (isForAll || sharers.length > MOST_NAMED))
    return { studentsOf: class_id };
  return { students: student_id ? [student_id] : sharers };
}

/** The staff of a class look again. */
export const publishToStaff = (app: { news: NewsHub }, klass: string): void =>
  app.news.publish({ news: { kind: 'class', class: klass }, places: [klass] });

/** Staff and students of these classes look again. */
export function publishToClasses(app: { news: NewsHub }, classes: readonly string[]): void {
  for (const klass of classes)
    app.news.publish({
      news: { kind: 'class', class: klass },
      places: [klass],
      studentsOf: klass,
    });
}
