import { allowOnAssignment } from '$server/access/allow';
import { viewCollecting } from '$server/collecting/view-collecting';
import type { PageServerLoadEvent } from './$types';

/** A cover sheet for each student, to be printed and laid on their paper. */
export const load = allowOnAssignment(
  'run the assignment',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const { trail, at, klass, title, students } = await viewCollecting(app, grant);
    return {
      trail: [...trail, { title: 'Collecting', to: at }, { title: 'Cover sheets' }],
      at,
      klass,
      title,
      assignment: grant.thing.id,
      students,
    };
  },
);
