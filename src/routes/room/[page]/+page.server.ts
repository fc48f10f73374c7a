import { allowOnPage } from '$server/access/allow';
import { viewRoom } from '$server/page/view-room';
import type { PageServerLoadEvent } from './$types';

/** A page that its keeper shows to the whole room, while it is written somewhere else. */
export const load = allowOnPage(
  'manage the page',
  async (_event: PageServerLoadEvent, { app, grant }) => viewRoom(app, grant),
);
