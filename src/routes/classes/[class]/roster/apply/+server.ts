import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { Refusal } from '$server/page/refusal';
import { applyRoster } from '$server/roster/apply-roster';
import { readOfficeClass } from '$server/roster/known';
import { readRosterFile } from '$server/roster/read-file';
import { readRosterRequest } from '$server/roster/request';

/** Puts the chosen changes of a roster file into the roster, all or none. */
export const POST = allowInClass(
  'keep the class',
  async ({ request }: RequestEvent, { app, person, thing }) => {
    const wish = await readRosterRequest(request);
    const remembered = wish.officeClass ?? (await readOfficeClass(app.db, thing.id));
    const file = await readRosterFile(wish.bytes, { ...wish, officeClass: remembered });
    if (file.officeClasses && !file.officeClass)
      throw new Refusal(400, 'Choose the class of the package first.');
    const { entries, officeClass } = file;
    const { whole, chosen, name: source } = wish;
    const changes = await applyRoster(app, thing, {
      ...{ entries, officeClass, whole, chosen, source, by: person.id },
    });
    return json({ changes });
  },
);
