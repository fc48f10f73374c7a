import { allowOnAssignment } from '$server/access/allow';
import { viewLookAlike } from '$server/class/look-alike';
import type { PageServerLoadEvent } from './$types';

/** Which of its copies share passages. */
export const load = allowOnAssignment(
  'see the assignment',
  async ({ url }: PageServerLoadEvent, { app, grant }) => {
    const { class: klass, id } = grant.thing;
    const view = await viewLookAlike(app.db, grant, url.searchParams.getAll('of'));
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title: view.title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Shared passages' },
      ],
      klass,
      leads: grant.may('run the assignment'),
      /** Which of the passages is looked at: its place in the list. */
      shown: Number(url.searchParams.get('passage')),
      ...view,
    };
  },
);
