import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { GroupingWish, keepGrouping } from '$server/class/groups';
import { readJson } from '$server/http/body';

/** Keeps groups under their name, new or changed. */
export const PUT = allowInClass(
  'keep the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const wish = await readJson(request, GroupingWish);
    return json({ id: await keepGrouping(app.db, grant, wish) });
  },
);
