import { allowInClass } from '$server/access/allow';
import { viewGradebook } from '$server/grades/gradebook';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:gradebook');
    const { id, name, title } = grant.thing;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Gradebook' }],
      ...(await viewGradebook(app.db, grant)),
    };
  },
);
