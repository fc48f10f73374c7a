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
export function tellClasses(app: { news: NewsHub }, classes: readonly string[], at: Date): void {
  for (const klass of classes)
    app.news.tell({
      page: null,
      version: 0,
      places: [klass],
      students: [],
      studentsOf: klass,
      record: true,
      at: at.getTime(),
    });
}
