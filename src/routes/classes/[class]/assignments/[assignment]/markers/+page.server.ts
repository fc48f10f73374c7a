import type { ServerLoadEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { viewMarkers } from '$server/copy/view-markers';

/** Who marks which copies, and how far they agree. */
export const load = allowOnAssignment(
  'mark its copies',
  async ({ depends }: ServerLoadEvent, { app, grant }) => {
    depends('uncia:markers');
    const { class: klass, id, title } = grant.thing;
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Markers' },
      ],
      klass,
      title,
      assignment: id,
      mayDeal: grant.may('run the assignment'),
      ...(await viewMarkers(app, grant)),
    };
  },
);
