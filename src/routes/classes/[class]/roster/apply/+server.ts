import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { Refusal } from '$server/page/refusal';
import { applyRoster } from '$server/roster/apply-roster';
import { readRosterRequest } from '$server/roster/request';

/** Puts the chosen changes of a roster into the class, all or none. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { roster, whole, chosen, source, fromOffice } = await readRosterRequest(
      request,
      app,
      grant,
    );
    if (roster.officeClasses && !roster.officeClass)
      throw new Refusal(400, 'Choose which of the office’s classes this is first.');
    const { entries, officeClass } = roster;
    const changes = await applyRoster(app, grant, {
      entries,
      officeClass,
      whole,
      chosen,
      source,
      fromOffice,
    });
    return json({ changes });
  },
);
