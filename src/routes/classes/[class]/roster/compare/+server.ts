import { json, type RequestEvent } from '@sveltejs/kit';
import { compareRoster } from '$core/roster/compare-roster';
import { allowInClass } from '$server/access/allow';
import { readKnown } from '$server/roster/known';
import { readRosterRequest } from '$server/roster/request';

/** What a roster would change. Nothing is changed by asking. */
export const POST = allowInClass(
  'keep the class',
  async ({ request }: RequestEvent, { app, thing }) => {
    const { roster, whole, remembered } = await readRosterRequest(request, app, thing.id);
    const { entries, ...read } = roster;
    const { changes, same, twice } = compareRoster(entries, await readKnown(app.db, thing), whole);
    // Of several classes, one is compared once it is chosen.
    const undecided = read.officeClasses !== null && read.officeClass === null;
    return json({
      ...{ ...read, changes: undecided ? [] : changes, same, bad: [...read.bad, ...twice] },
      isNewPair: read.officeClass !== null && read.officeClass !== remembered,
    });
  },
);
