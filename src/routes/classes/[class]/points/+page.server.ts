import { allowInClass } from '$server/access/allow';
import { viewOwnGrades } from '$server/grades/gradebook';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see own grades',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:points');
    const { id, name, title, archived } = grant.thing;
    return {
      trail: [
        { title: `${name} ${title}`, to: archived ? '/work' : `/classes/${id}/plan` },
        { title: 'My points' },
      ],
      ...(await viewOwnGrades(app.db, grant)),
    };
  },
);
