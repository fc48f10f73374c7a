import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { setGroupingAway } from '$server/class/groups';
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

const Away = z.object({
  grouping: z.uuid('Choose groups first.'),
  away: z.enum(['true', 'false']),
});

export const actions = {
  away: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { grouping, away } = await readForm(request, Away);
      await setGroupingAway(app.db, grant, grouping, away === 'true');
    }),
  ),
};
