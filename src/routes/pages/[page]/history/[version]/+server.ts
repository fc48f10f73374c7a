import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { lookBack } from '$server/history/look-back';
import { Refusal } from '$server/page/refusal';
import type { RequestEvent } from './$types';

/** A moment of a copy, with the stretch of history that it lies in. */
export const GET = allowOnPage('look back', async ({ params }: RequestEvent, { app, grant }) => {
  const version = z.coerce.number().int().min(0).safeParse(params.version);
  if (!version.success) throw new Refusal(404, 'This page has no such version.');
  return json(await lookBack(app, grant, version.data));
});
