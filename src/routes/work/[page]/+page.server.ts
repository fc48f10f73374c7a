import { allowOnPage } from '$server/access/allow';
import { openCopy, readAssignment } from '$server/copy/open-copy';
import { readOwnCopy } from '$server/copy/own-work';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'do own work',
  async (_event: PageServerLoadEvent, { app, person, thing }) => {
    const open = await openCopy(app, thing.id, person.id);
    const assignment = await readAssignment(app, open.copy);
    const copy = await readOwnCopy(app, thing.id, person.id);
    return {
      ...{
        page: thing.id,
        ...open,
        copy,
        assignment,
        timeZone: await readTimeZone(app.db, thing.school_id),
        now: Date.now(),
      },
      trail: [{ title: `${assignment.class} ${assignment.course}` }, { title: assignment.title }],
      me: `${person.given} ${person.family}`,
    };
  },
);
