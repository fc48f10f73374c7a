import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { GroupingSpec, saveGrouping } from '$server/class/groups';
import { readJson } from '$server/http/body';

/** Keeps groups under their name, new or changed. */
export const PUT = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const spec = await readJson(request, GroupingSpec);
    return json({ id: await saveGrouping(app.db, grant, spec) });
  },
);
