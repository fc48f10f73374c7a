import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { lookInside } from '$server/copy/look-inside';

/** The version that is known already, from an address: -1 where nothing is; null for what was looked at last. */
const Since = z.coerce.number().int().min(-1).nullable().catch(null);

/** A look inside a copy, for the staff. */
export const GET = allowOnPage('look inside', async ({ url }: RequestEvent, { app, grant }) =>
  json(await lookInside(app, grant, Since.parse(url.searchParams.get('since')))),
);
