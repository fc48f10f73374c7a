import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { momentIn } from '$server/class/moment-in';
import { viewHours } from '$server/class/hours';

/** When its students worked on their copies: what a lens of the board shows. */
export const GET = allowInClass('see the class', async ({ url }: RequestEvent, { app, grant }) =>
  json(await viewHours(app.db, grant, momentIn(url))),
);
