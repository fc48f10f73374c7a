import { json, type RequestEvent } from '@sveltejs/kit';
import { compareRoster } from '$core/roster/compare-roster';
import { allowInClass } from '$server/access/allow';
import { readKnown, readOfficeClass } from '$server/roster/known';
import { readRosterFile } from '$server/roster/read-file';
import { readRosterRequest } from '$server/roster/request';

/** What a roster file would change. Nothing is changed by asking. */
export const POST = allowInClass(
  'keep the class',
  async ({ request }: RequestEvent, { app, thing }) => {
    const wish = await readRosterRequest(request);
    const officeClass = wish.officeClass ?? (await readOfficeClass(app.db, thing.id));
    const file = await readRosterFile(wish.bytes, { ...wish, officeClass });
    const { entries, ...read } = file;
    const { changes, same, twice } = compareRoster(
      entries,
      await readKnown(app.db, thing),
      wish.whole,
    );
    // A package is compared once its class is chosen.
    const undecided = file.officeClasses !== null && file.officeClass === null;
    return json({ ...read, changes: undecided ? [] : changes, same, bad: [...read.bad, ...twice] });
  },
);
