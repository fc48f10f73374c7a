import type { ServerLoadEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { viewByCriterion } from '$server/copy/by-criterion';

/** The copies of an assignment, one criterion of its rubric after the other. */
export const load = allowOnAssignment(
  'mark its copies',
  async ({ depends }: ServerLoadEvent, { app, grant }) => {
    depends('uncia:by-criterion');
    const { class: klass, id, title } = grant.thing;
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'By criterion' },
      ],
      klass,
      title,
      assignment: id,
      ...(await viewByCriterion(app, grant)),
    };
  },
);
