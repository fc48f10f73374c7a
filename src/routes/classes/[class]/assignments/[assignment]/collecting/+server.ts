import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { CollectingMove } from '$server/collecting/collecting-move';
import { moveCollected } from '$server/collecting/move-collected';
import { readJson } from '$server/http/body';

/** Says whose a collected file is, puts it aside, collects it, undoes that, or cuts a stack of sheets. */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await moveCollected(app, grant, await readJson(request, CollectingMove))),
);
