import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { attachLink } from '$server/attached/attach';
import { readJson } from '$server/http/body';

/** Attaches a link to a copy. */
export const POST = allowOnPage(
  'do own work',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { link } = await readJson(request, z.strictObject({ link: z.string().max(5000) }));
    await attachLink(app, grant, link);
    return json({}, { status: 201 });
  },
);
