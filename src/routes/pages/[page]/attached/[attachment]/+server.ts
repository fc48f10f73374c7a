import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { openAttached, putAttachedAway } from '$server/attached/attach';
import { readJson } from '$server/http/body';
import { sendFile } from '$server/http/send-file';

/** A file that is attached to a copy, or was. */
export const GET = allowOnPage(
  'read the page',
  async ({ request, params, url }: RequestEvent, { app, grant }) =>
    sendFile(
      request,
      await openAttached(app, grant, {
        id: params.attachment ?? '',
        kept: url.searchParams.has('kept'),
      }),
    ),
);

/** Removes it from the copy, or brings it back. */
export const POST = allowOnPage(
  'do own work',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const { away } = await readJson(request, z.strictObject({ away: z.boolean() }));
    await putAttachedAway(app, grant, params.attachment ?? '', away);
    return json({});
  },
);
