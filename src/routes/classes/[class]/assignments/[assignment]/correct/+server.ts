import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { bringCorrection, previewCorrection, readOutdated } from '$server/handout/corrections';
import { checkAssignment } from '$server/handout/rights';
import { assignmentIn } from '$server/handout/view-assignment';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** Brings a corrected original into the copies of an assignment, or says what that would do. */
export const POST = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, person, thing }) => {
    const { page, preview } = await readJson(
      request,
      z.object({ page: z.uuid(), preview: z.boolean() }),
    );
    const assignment = await assignmentIn(app.db, params.assignment, thing.id);
    await checkAssignment(app, person.id, assignment);
    const outdated = (await readOutdated(app, assignment)).find(({ id }) => id === page);
    if (!outdated) throw new Refusal(409, 'The copies have the newest text of this page already.');
    const wish = { assignment, page, to: outdated.is };
    if (preview) return json(await previewCorrection(app, wish));
    return json({ says: await bringCorrection(app, { ...wish, by: person.id, at: new Date() }) });
  },
);
