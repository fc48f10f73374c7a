import { json, type RequestEvent } from '@sveltejs/kit';
import { Arrangement } from '$core/course/arrangement';
import { allowInClass } from '$server/access/allow';
import { arrange } from '$server/course/units';
import { publishToClasses } from '$server/live/listeners';
import { readJson } from '$server/http/body';

/** Puts the units and pages of a class in the order that somebody wants. */
export const PUT = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    await arrange(app.db, grant, await readJson(request, Arrangement));
    publishToClasses(app, [grant.thing.id]);
    return json({});
  },
);
