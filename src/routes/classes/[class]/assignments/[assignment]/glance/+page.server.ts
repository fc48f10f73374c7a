import { allowOnAssignment } from '$server/access/allow';
import { viewGlance } from '$server/class/at-a-glance';
import type { PageServerLoadEvent } from './$types';

/** What a class got for it, at a glance. */
export const load = allowOnAssignment(
  'see the assignment',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:glance');
    const { class: klass, id } = grant.thing;
    const glance = await viewGlance(app.db, grant);
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title: glance.title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'At a glance' },
      ],
      klass,
      assignment: id,
      ...glance,
    };
  },
);
