import { allowInClass } from '$server/access/allow';
import { readWorld } from '$server/handout/materials';
import { assignmentIn, viewAssignment } from '$server/handout/view-assignment';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'hand out',
  async ({ params }: PageServerLoadEvent, { app, person, thing }) => {
    const id = await assignmentIn(app.db, params.assignment, thing.id);
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
