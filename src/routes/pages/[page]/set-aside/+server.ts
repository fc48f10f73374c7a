import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { readOwnSetAside, settleSetAside } from '$server/page/set-aside';

/** The person's own words on this page whose place was gone, and that they have not dealt with. */
export const GET = allowOnPage('read the page', async (_event: RequestEvent, { app, grant }) =>
  json(await readOwnSetAside(app.db, grant)),
);

const Settled = z.object({
  client: z.string().max(40),
  numbers: z.array(z.number().int()).min(1).max(2000),
});

/** They put them back, or let them go; they stay in the record. */
export const POST = allowOnPage(
  'read the page',
  async ({ request }: RequestEvent, { app, grant }) => {
    await settleSetAside(app.db, grant, await readJson(request, Settled));
    return json(await readOwnSetAside(app.db, grant));
  },
);
