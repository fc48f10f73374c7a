import { allowOnAssignment } from '$server/access/allow';
import { viewChange } from '$server/handout/view-hand-out';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnAssignment(
  'change the assignment',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const { id, class: klass } = grant.thing;
    const view = await viewChange(app, grant);
    const at = `/classes/${klass.id}`;
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: at },
        { title: view.assignment.spec.title, to: `${at}/assignments/${id}` },
        { title: 'Change' },
      ],
      ...view,
    };
  },
);
