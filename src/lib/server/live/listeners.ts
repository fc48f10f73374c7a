import type { NewsHub } from './news-hub';

/** More than these hear of a shared page as their whole class. */
const MOST_NAMED = 60;

/** Which students hear of news of a page. */
export function studentsWhoHear(page: {
  student_id: string | null;
  class_id: string | null;
  sharers: readonly string[];
}): { students: readonly string[]; studentsOf?: string } {
  if (page.sharers.length > MOST_NAMED && page.class_id !== null)
    return { students: [], studentsOf: page.class_id };
  return { students: page.student_id ? [page.student_id] : page.sharers };
}

/** Staff and students of these classes look again. */
export function publishToClasses(app: { news: NewsHub }, classes: readonly string[]): void {
  for (const klass of classes)
    app.news.publish({
      news: { kind: 'class', class: klass },
      places: [klass],
      studentsOf: klass,
    });
}
