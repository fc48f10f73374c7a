import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { HandOutWish } from '$core/handout/wish';
import { allowOnAssignment } from '$server/access/allow';
import { changeAssignment, previewChange } from '$server/handout/change-assignment';
import { CheckedWish } from '$server/handout/rights';
import { readJson } from '$server/http/body';

const Change = z.object({
  wish: HandOutWish,
  begin: z.enum(['shared page', 'original']).default('original'),
  /** The newest change that this person has seen. */
  seen: z.uuid().nullable().optional(),
  /** Only what would happen. */
  preview: z.boolean(),
});

/** Changes an assignment after it was handed out, or says what that would do. */
export const POST = allowOnAssignment(
  'change the assignment',
  async ({ request }: RequestEvent, { app, person, grant }) => {
    const { wish, begin, preview, seen } = await readJson(request, Change);
    const checked = await CheckedWish.check(app, person.id, wish);
    const change = { wish: checked, begin, seen, at: new Date() };
    if (preview) return json(await previewChange(app, grant, change));
    return json({ facts: await changeAssignment(app, grant, change) });
  },
);
