import { json } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { lookBack, readVersion } from '$server/history/look-back';
import type { RequestEvent } from './$types';

/** A moment of a copy, with the stretch of history that it lies in. */
export const GET = allowOnPage('look back', async ({ params }: RequestEvent, { app, grant }) =>
  json(await lookBack(app, grant, readVersion(params.version))),
);
