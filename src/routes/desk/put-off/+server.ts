import { json, type RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { putOff, PutOff } from '$server/desk/put-off';
import { readJson } from '$server/http/body';

/** Puts a line of one's own desk off, or takes it back. */
export const POST = allowPerson(
  'see own desk',
  async ({ request }: RequestEvent, { app, grant }) => {
    await putOff(app.db, grant, await readJson(request, PutOff), Date.now());
    return json({});
  },
);
