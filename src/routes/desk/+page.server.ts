import { allowPerson } from '$server/access/allow';
import { readFirstSteps } from '$server/desk/first-steps';
import { readDesk } from '$server/desk/desk';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'see own desk',
  async ({ depends }: PageServerLoadEvent, { app, person }) => {
    depends('uncia:desk');
    const now = Date.now();
    return {
      title: 'Desk',
      now,
      desk: await readDesk(app.db, person, now),
      first: await readFirstSteps(app.db, person.id),
    };
  },
);
