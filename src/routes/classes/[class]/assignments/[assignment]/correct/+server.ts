import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { bringCorrection, newestText, previewCorrection } from '$server/handout/corrections';
import { readJson } from '$server/http/body';

/** Brings a corrected original into the copies of an assignment, or says what that would do. */
export const POST = allowOnAssignment(
  'change the assignment',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { page, preview } = await readJson(
      request,
      z.object({ page: z.uuid(), preview: z.boolean() }),
    );
    const spec = await newestText(app, grant, page);
    if (preview) return json(await previewCorrection(app, grant, spec));
    const { facts } = await bringCorrection(app, grant, { ...spec, at: new Date() });
    return json({ facts });
  },
);
