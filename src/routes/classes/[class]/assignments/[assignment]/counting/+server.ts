import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { COUNTING } from '$core/grades/grade-line';
import { allowOnAssignment } from '$server/access/allow';
import { setCounting } from '$server/grades/gradebook';
import { readJson } from '$server/http/body';

/** How the assignment counts in this class: as it is, as extra points, or not at all. */
export const PUT = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { counting } = await readJson(request, z.object({ counting: z.enum(COUNTING) }));
    await setCounting(app, grant, counting);
    return json({});
  },
);
