import { allowOnPage } from '$server/access/allow';
import { may } from '$server/access/table';
import { openCopy, readAssignment } from '$server/copy/open-copy';
import { readOwnCopy, readSharers } from '$server/copy/own-work';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'see own copy',
  async (_event: PageServerLoadEvent, { app, person, thing, relation }) => {
    const open = await openCopy(app, thing.id, person.id);
    const assignment = { ...(await readAssignment(app, open.copy)), title: thing.title };
    const copy = await readOwnCopy(app.db, thing.id, person.id);
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
      shared: await readSharers(app.db, thing.id, person.id),
      mayWork: may('do own work', relation),
    };
  },
);
