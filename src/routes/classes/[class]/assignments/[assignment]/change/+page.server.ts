import { allowOnAssignment } from '$server/access/allow';
import { readWorld } from '$server/handout/materials';
import { viewAssignment } from '$server/handout/view-assignment';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnAssignment(
  'change the assignment',
  async (_event: PageServerLoadEvent, { app, person, thing: { id, class: thing } }) => {
    const now = Date.now();
    const assignment = await viewAssignment(app, id, thing, person, now);
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: assignment.wish.title, to: `/classes/${thing.id}/assignments/${id}` },
        { title: 'Change' },
      ],
      klass: thing,
      assignment,
      world: await readWorld(app, person, thing.time_zone, now),
    };
  },
);
