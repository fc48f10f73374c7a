import { allowPerson } from '$server/access/allow';
import { readOpenClasses, readOwnWork } from '$server/copy/own-work';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'see own work',
  async ({ depends }: PageServerLoadEvent, { app, person }) => {
    depends('uncia:work');
    return {
      title: 'My work',
      now: Date.now(),
      timeZone: await readTimeZone(app.db, person.school_id),
      work: await readOwnWork(app, person.id),
      classes: await readOpenClasses(app.db, person.id),
    };
  },
);
