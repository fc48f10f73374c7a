import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { askOwnScoring } from '$server/copy/own-scoring';
import { readJson } from '$server/http/body';

/** Whether its students score their copies themselves, by its rubric. */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { asked } = await readJson(request, z.strictObject({ asked: z.boolean() }));
    await askOwnScoring(app, grant, asked);
    return json({});
  },
);
