import { allowPerson } from '$server/access/allow';
import { readFirstSteps } from '$server/desk/first-steps';
import { readBehind } from '$server/desk/behind';
import { readOfficeDifferences } from '$server/desk/office-differences';
import { readDesk } from '$server/desk/desk';
import { logUnexpected } from '$server/log';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'see own desk',
  async ({ depends }: PageServerLoadEvent, { app, person, grant }) => {
    depends('uncia:desk');
    const now = Date.now();
    const desk = await readDesk(app.db, person, now);
    const first = await readFirstSteps(app.db, person.id);
    // It follows the view: one connection after the other, and a failure is no reason to show nothing.
    const behind = readBehind(app.db, grant, now).catch((error: unknown) => {
      logUnexpected(error, { part: 'what stands behind the desk' });
      return { lacking: [], stuck: [], names: {} };
    });
    return {
      title: 'Desk',
      now,
      desk,
      first,
      behind,
      /** It may not answer for a while. */
      office: behind
        .then(() => readOfficeDifferences(app, grant))
        .catch((error: unknown) => {
          logUnexpected(error, { part: 'the office, for the desk' });
          return [];
        }),
    };
  },
);
