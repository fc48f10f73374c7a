import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { dropGrouping } from '$server/class/groups';
import { viewGroups } from '$server/class/view-class';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'manage the class',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const { id, name, title } = grant.thing;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Groups' }],
      ...(await viewGroups(app.db, grant)),
    };
  },
);

export const actions = {
  drop: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ grouping: z.uuid('Choose groups first.') }));
      await dropGrouping(app.db, grant, spec.grouping);
    }),
  ),
};
