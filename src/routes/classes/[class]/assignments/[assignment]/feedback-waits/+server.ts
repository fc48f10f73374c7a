import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { setFeedbackWaits } from '$server/copy/feedback-waits';
import { readJson } from '$server/http/body';

const Asked = z.object({ waits: z.boolean() });

/** Whether what is written in the margins of its copies is sent at once, or goes back with the copy. */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const { waits } = await readJson(request, Asked);
    await setFeedbackWaits(app, grant, params.class ?? '', waits);
    return json({});
  },
);
