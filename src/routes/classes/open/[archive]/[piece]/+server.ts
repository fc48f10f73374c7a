import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { bringPiece } from '$server/archive/open-archive';
import { Refusal } from '$server/page/refusal';

const Params = z.object({
  archive: z.uuid(),
  piece: z.coerce.number().int().min(0).max(10_000),
});

/** A piece of an archive that is brought, as its bytes. */
export const PUT = allowPerson(
  'manage courses',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const read = Params.safeParse(params);
    if (!read.success) throw new Refusal(404, 'There is no such archive.');
    const { archive, piece: n } = read.data;
    const bytes = Buffer.from(await request.arrayBuffer());
    await bringPiece(app.db, grant, { archive, n, bytes });
    return json({});
  },
);
