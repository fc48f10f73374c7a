import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { HandOutWish } from '$core/handout/wish';
import { allowInClass } from '$server/access/allow';
import { changeAssignment, previewChange } from '$server/handout/change-assignment';
import { checkWish } from '$server/handout/rights';
import { assignmentIn } from '$server/handout/view-assignment';
import { readJson } from '$server/http/body';

const Change = z.object({
  wish: HandOutWish,
  begin: z.enum(['shared page', 'original']).default('original'),
  /** Only what would happen. */
  preview: z.boolean(),
});

/** Changes an assignment after it was handed out, or says what that would do. */
export const POST = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, person, thing }) => {
    const { wish, begin, preview } = await readJson(request, Change);
    const assignment = await assignmentIn(app.db, params.assignment, thing.id);
    await checkWish(app, person.id, wish);
    const change = { assignment, wish, begin, by: person.id, at: new Date() };
    if (preview) return json(await previewChange(app, change));
    return json({ says: await changeAssignment(app, change) });
  },
);
