import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { MarkingPlace, saveMarkingPlace } from '$server/copy/marking-place';
import { readJson } from '$server/http/body';

/** Remembers where somebody is in the line of copies, and how they go through it. */
export const PUT = allowOnAssignment(
  'mark its copies',
  async ({ request }: RequestEvent, { app, grant }) => {
    await saveMarkingPlace(app, grant, await readJson(request, MarkingPlace));
    return json({});
  },
);
