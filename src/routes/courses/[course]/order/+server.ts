import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInCourse } from '$server/access/allow';
import { arrange } from '$server/course/units';
import { readJson } from '$server/http/body';
import { Arrangement } from '$core/course/arrangement';

/** Puts units, pages and rubrics in the order that somebody wants. */
export const PUT = allowInCourse(
  'write the course',
  async ({ request }: RequestEvent, { app, grant }) => {
    await arrange(app.db, grant, await readJson(request, Arrangement));
    return json({});
  },
);
