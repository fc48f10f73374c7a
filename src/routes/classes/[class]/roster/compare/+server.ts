import { json, type RequestEvent } from '@sveltejs/kit';
import { planRosterChanges } from '$server/roster/apply-roster';
import { allowInClass } from '$server/access/allow';
import { readRosterRequest } from '$server/roster/request';

/** What a roster would change. Nothing is changed by asking. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { roster, whole, remembered, fromOffice } = await readRosterRequest(request, app, grant);
    const { entries, ...read } = roster;
    const { changes, same, twice } = await planRosterChanges(app.db, grant, {
      entries,
      whole,
      fromOffice,
    });
    // Of several classes, one is compared once it is chosen.
    const undecided = read.officeClasses !== null && read.officeClass === null;
    return json({
      ...read,
      changes: undecided ? [] : changes,
      same,
      bad: [...read.bad, ...twice],
      isNewPair: read.officeClass !== null && read.officeClass !== remembered,
    });
  },
);
