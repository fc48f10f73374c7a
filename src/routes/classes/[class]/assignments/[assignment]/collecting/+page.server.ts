import { allowOnAssignment } from '$server/access/allow';
import { viewCollecting } from '$server/collecting/view-collecting';
import type { PageServerLoadEvent } from './$types';

/** What was collected for an assignment, and whose it is. */
export const load = allowOnAssignment(
  'run the assignment',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:collecting');
    const view = await viewCollecting(app, grant);
    return { ...view, trail: [...view.trail, { title: 'Collecting' }] };
  },
);
