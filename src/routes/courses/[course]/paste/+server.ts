import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInCourse } from '$server/access/allow';
import { Paste, paste } from '$server/course/paste';
import { readJson } from '$server/http/body';

/** Copies pages of any course of one's own or a colleague's into this one, or moves them here. */
export const POST = allowInCourse(
  'write the course',
  async ({ request }: RequestEvent, { app, grant }) => {
    const spec = await readJson(request, Paste);
    return json({ pages: await paste(app, grant, spec) });
  },
);
