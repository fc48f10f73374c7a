import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { HandOutSpec } from '$core/handout/spec';
import { allowOnAssignment } from '$server/access/allow';
import { changeAssignment, previewChange } from '$server/handout/change-assignment';
import { CheckedSpec } from '$server/handout/rights';
import { readJson } from '$server/http/body';

const Change = z.object({
  spec: HandOutSpec,
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
    const { spec, begin, preview, seen } = await readJson(request, Change);
    const checked = await CheckedSpec.check(app, person.id, spec);
    const change = { spec: checked, begin, seen, at: new Date() };
    if (preview) return json(await previewChange(app, grant, change));
    return json({ facts: await changeAssignment(app, grant, change) });
  },
);
