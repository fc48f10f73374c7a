import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { HandOutSpec } from '$core/handout/spec';
import { allowInClass } from '$server/access/allow';
import { saveTemplate } from '$server/handout/drafts';
import { readJson } from '$server/http/body';

const Template = z.object({
  name: z.string().trim().min(1, 'Give the template a name, to find it again.').max(100),
  spec: HandOutSpec,
});

/** Keeps how something is handed out as a template of one's own. */
export const POST = allowInClass('hand out', async ({ request }: RequestEvent, { app, person }) => {
  await saveTemplate(app, person, await readJson(request, Template));
  return json({});
});
