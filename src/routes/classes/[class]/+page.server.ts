import { allowInClass } from '$server/access/allow';
import { viewBoard } from '$server/class/view-class';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:board');
    const { name, title } = grant.thing;
    return { trail: [{ title: `${name} ${title}` }], ...(await viewBoard(app.db, grant)) };
  },
);
