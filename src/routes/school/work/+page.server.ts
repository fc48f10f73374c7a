import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { readForm, formAction } from '$server/http/form';
import { readMailFaults, readWork, tryAgain } from '$server/jobs/work';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'manage the school',
  async (_event: PageServerLoadEvent, { app, person, grant }) => {
    const now = Date.now();
    return {
      trail: [{ title: 'Background work' }],
      work: await readWork(app.db, grant, now),
      mail: await readMailFaults(app.db, person.school_id),
      now,
      timeZone: await readTimeZone(app.db, person.school_id),
    };
  },
);

export const actions = {
  again: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const work = await readForm(
        request,
        z.object({ id: z.uuid('No work is named.'), kind: z.string().max(60) }),
      );
      await tryAgain(app, grant, work);
    }),
  ),
};
