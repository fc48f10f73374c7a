import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInCourse } from '$server/access/allow';
import { tag, Tagging } from '$server/course/code-tags';
import { readJson } from '$server/http/body';

/** Sets which codes a page of the course, or a criterion of one of its rubrics, carries. */
export const PUT = allowInCourse(
  'write the course',
  async ({ request }: RequestEvent, { app, grant }) => {
    await tag(app.db, grant, await readJson(request, Tagging));
    return json({});
  },
);
