import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { beginBringing } from '$server/archive/open-archive';
import { readJson } from '$server/http/body';

/** Begins to bring an archive, which comes in pieces. */
export const POST = allowPerson(
  'manage courses',
  async ({ request }: RequestEvent, { app, grant }) => {
    const file = await readJson(
      request,
      z.object({ name: z.string().min(1).max(300), size: z.number().int().min(1) }),
    );
    return json({ id: await beginBringing(app.db, grant, file) }, { status: 201 });
  },
);
