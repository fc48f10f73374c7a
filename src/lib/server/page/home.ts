import type { Database } from '../db/connect';
import type { PageRow } from '../db/schema';

/** The way from the first view to a page that is no copy: its course, or its class and that class's plan. */
export async function readHome(
  db: Database,
  page: Pick<PageRow, 'course_id' | 'class_id'>,
): Promise<{ title: string; to: string }[]> {
  if (page.course_id) {
    const course = await db
      .selectFrom('course')
      .select('title')
      .where('id', '=', page.course_id)
      .executeTakeFirstOrThrow();
    return [
      { title: 'Courses', to: '/courses' },
      { title: course.title, to: `/courses/${page.course_id}` },
    ];
  }
  const klass = await db
    .selectFrom('class')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.name', 'course.title'])
    .where('class.id', '=', page.class_id)
    .executeTakeFirstOrThrow();
  return [
    { title: `${klass.name} ${klass.title}`, to: `/classes/${page.class_id}` },
    { title: 'Plan', to: `/classes/${page.class_id}/plan` },
  ];
}
