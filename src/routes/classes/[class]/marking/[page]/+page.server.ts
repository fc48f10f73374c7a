import { allowOnPage } from '$server/access/allow';
import { viewMarking } from '$server/copy/view-copy';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'see the marking',
  async ({ depends, params }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:marking');
    const view = await viewMarking(app, grant, params.class);
    const { class: klass, course, title } = view.assignment;
    return {
      trail: [{ title: `${klass} ${course}`, to: `/classes/${params.class}` }, { title }],
      ...view,
    };
  },
);
