import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { readStudents } from '$server/class/board';
import { dropGrouping, readGroupings, readReached } from '$server/class/groups';
import { readForm, saying } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'keep the class',
  async (_event: PageServerLoadEvent, { app, thing }) => ({
    trail: [
      { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
      { title: 'Groups' },
    ],
    klass: thing,
    students: await readStudents(app.db, thing.id),
    reached: await readReached(app.db, thing.id),
    groupings: await readGroupings(app.db, thing.id),
  }),
);

export const actions = {
  drop: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(request, z.object({ grouping: z.uuid('Choose groups first.') }));
      await dropGrouping(app.db, thing.id, wish.grouping);
    }),
  ),
};
