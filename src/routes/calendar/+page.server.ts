import { allowPerson } from '$server/access/allow';
import { readDueTimes, readSecret, renewSecret } from '$server/calendar/due-times';
import { readTimeZone } from '$server/school/time-zone';
import { formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

const DAY = 86_400_000;

export const load = allowPerson(
  'be signed in',
  async ({ url, depends }: PageServerLoadEvent, { app, person }) => {
    depends('uncia:work');
    const now = Date.now();
    const times = await readDueTimes(app.db, person.id);
    return {
      trail: [{ title: 'Calendar' }],
      times: times.filter(({ due }) => due > now - 14 * DAY),
      feed: `${url.origin}/calendar/${await readSecret(app.db, person)}.ics`,
      timeZone: await readTimeZone(app.db, person.school_id),
      now,
    };
  },
);

export const actions = {
  renew: allowPerson(
    'be signed in',
    formAction(async (_event: RequestEvent, { app, person }) => {
      await renewSecret(app.db, person);
    }),
  ),
};
