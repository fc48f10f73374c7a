import { json } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { lookBack, readVersion } from '$server/history/look-back';
import type { RequestEvent } from './$types';

/** A moment of an original, with the stretch of history that it lies in. */
export const GET = allowOnPage(
  'manage the page',
  async ({ params }: RequestEvent, { app, grant }) =>
    json(await lookBack(app, grant, readVersion(params.version))),
);
