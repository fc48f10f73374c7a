import { allowOnAssignment } from '$server/access/allow';
import { viewClassmates } from '$server/copy/deal-readers';
import type { PageServerLoadEvent } from './$types';

/** Who scores whose copies, and how far they are. */
export const load = allowOnAssignment(
  'mark its copies',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:classmates');
    const { class: klass, id, title } = grant.thing;
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Classmates’ scoring' },
      ],
      klass,
      title,
      assignment: id,
      mayDeal: grant.may('run the assignment'),
      ...(await viewClassmates(app, grant)),
    };
  },
);
