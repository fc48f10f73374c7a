import { allowInClass } from '$server/access/allow';
import { viewBoard } from '$server/class/view-class';
import { momentIn } from '$server/class/moment-in';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ depends, url }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:board');
    const { name, title } = grant.thing;
    const at = momentIn(url);
    return { trail: [{ title: `${name} ${title}` }], ...(await viewBoard(app.db, grant, at)) };
  },
);
