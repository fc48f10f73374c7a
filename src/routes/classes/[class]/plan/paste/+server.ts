import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { Paste, paste } from '$server/course/paste';
import { publishToClasses } from '$server/live/listeners';
import { readJson } from '$server/http/body';

/** Copies pages of a course of one's own or a colleague's into the class. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const spec = await readJson(request, Paste);
    const pages = await paste(app, grant, spec);
    publishToClasses(app, [grant.thing.id]);
    return json({ pages });
  },
);
