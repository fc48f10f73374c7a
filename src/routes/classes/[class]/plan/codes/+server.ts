import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { tag, Tagging } from '$server/course/code-tags';
import { readJson } from '$server/http/body';

/** Sets which codes an assignment of the class carries. */
export const PUT = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    await tag(app.db, grant, await readJson(request, Tagging));
    return json({});
  },
);
