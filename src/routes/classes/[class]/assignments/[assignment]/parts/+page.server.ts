import { allowOnAssignment } from '$server/access/allow';
import { viewProgress } from '$server/class/progress';
import { viewParts } from '$server/class/parts-of-class';
import type { PageServerLoadEvent } from './$types';

/** Its parts across a class, and how it went. */
export const load = allowOnAssignment(
  'see the assignment',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:parts');
    const { class: klass, id } = grant.thing;
    const view = await viewParts(app.db, grant);
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title: view.title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Parts' },
      ],
      klass,
      mayChange: grant.may('run the assignment'),
      progress: await viewProgress(app.db, grant, Date.now()),
      ...view,
    };
  },
);
