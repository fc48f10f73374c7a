import { error, redirect, type ServerLoadEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { whereToMark } from '$server/copy/marking-place';

/** Goes on marking where one was. */
export const load = allowOnAssignment(
  'see the assignment',
  async (_event: ServerLoadEvent, { app, grant }) => {
    const page = await whereToMark(app, grant);
    if (!page) error(404, 'Nobody in this class has a copy of it.');
    redirect(303, `/classes/${grant.thing.class.id}/marking/${page}`);
  },
);
