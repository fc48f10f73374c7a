import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { lookAgain } from '$server/attached/attach';

/** Looks once more whether others can open a link. */
export const POST = allowOnPage('comment', async ({ params }: RequestEvent, { app, grant }) => {
  await lookAgain(app, grant, params.attachment ?? '');
  return json({});
});
