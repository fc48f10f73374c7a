import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { endBringing } from '$server/archive/open-archive';
import { Refusal } from '$server/page/refusal';

/** All of an archive is here: it is opened. */
export const POST = allowPerson(
  'manage courses',
  async ({ params }: RequestEvent, { app, grant }) => {
    const id = z.uuid().safeParse(params.archive);
    if (!id.success) throw new Refusal(404, 'There is no such archive.');
    await endBringing(app, grant, id.data);
    return json({});
  },
);
