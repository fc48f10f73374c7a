import { studentsWhoHear } from '../live/listeners';
import type { Using } from '../services';

/**
 * Tells that something is new in the margin of a page.
 * @param forStaff what students hear nothing of: not even that there is something
 */
export function publishMargin(
  app: Using<'news'>,
  page: string,
  row: { version: number } & Parameters<typeof studentsWhoHear>[0],
  forStaff = false,
): void {
  app.news.publish({
    news: { kind: 'threads', page, version: row.version },
    places: row.class_id ? [row.class_id] : [],
    ...(forStaff ? {} : studentsWhoHear(row)),
  });
}
