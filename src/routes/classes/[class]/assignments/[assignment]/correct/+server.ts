import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { bringCorrection, previewCorrection, readOutdated } from '$server/handout/corrections';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** Brings a corrected original into the copies of an assignment, or says what that would do. */
export const POST = allowOnAssignment(
  'change the assignment',
  async ({ request }: RequestEvent, { app, thing, grant }) => {
    const { page, preview } = await readJson(
      request,
      z.object({ page: z.uuid(), preview: z.boolean() }),
    );
    const outdated = (await readOutdated(app, thing.id)).find(({ id }) => id === page);
    if (!outdated) throw new Refusal(409, 'The copies have the newest text of this page already.');
    const wish = { page, to: outdated.is };
    if (preview) return json(await previewCorrection(app, grant, wish));
    const { says } = await bringCorrection(app, grant, { ...wish, at: new Date() });
    return json({ says });
  },
);
