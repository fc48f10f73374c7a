import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { countAsRubric } from '$server/handout/count-as-rubric';

/** Makes an assignment count for as many points as its rubric can give. */
export const POST = allowOnAssignment(
  'change the assignment',
  async (_event: RequestEvent, { app, person, grant }) => {
    await countAsRubric(app, person.id, grant);
    return json({});
  },
);
