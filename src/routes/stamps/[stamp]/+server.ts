import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { Refusal } from '$server/page/refusal';
import { readPicture } from '$server/phrasebook/stamps';

/** The picture of a teacher's own stamp; it never changes. */
export const GET = allowPerson('be signed in', async ({ params }: RequestEvent, { app, grant }) => {
  const id = z.uuid().safeParse(params.stamp);
  if (!id.success) throw new Refusal(404, 'There is no such stamp.');
  return new Response(new Uint8Array(await readPicture(app, grant, id.data)), {
    headers: {
      'content-type': 'image/png',
      'cache-control': 'private, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
    },
  });
});
