import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInCourse } from '$server/access/allow';
import { tag, Tagging } from '$server/course/codes';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** Sets which codes a page of the course, or a criterion of one of its rubrics, carries. */
export const PUT = allowInCourse(
  'write the course',
  async ({ request }: RequestEvent, { app, thing }) => {
    const wish = await readJson(request, Tagging);
    const { on } = wish;
    const [table, id] =
      'page' in on
        ? (['page', on.page] as const)
        : 'rubric' in on
          ? (['rubric', on.rubric] as const)
          : ([null, ''] as const);
    const known =
      table &&
      (await app.db
        .selectFrom(table)
        .select('id')
        .where('id', '=', id)
        .where('course_id', '=', thing.id)
        .executeTakeFirst());
    if (!known) throw new Refusal(404, 'This is not in the course any more.');
    await tag(app.db, thing.school_id, wish);
    return json({});
  },
);
