import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { NewReminder, readReminded, remindByHand } from '$server/handout/remind-by-hand';
import { readJson } from '$server/http/body';

/** Who was reminded today, and of what. */
export const GET = allowInClass('manage the class', async (_event: RequestEvent, { app, grant }) =>
  json(await readReminded(app.db, grant, Date.now())),
);

/** Reminds students of what they still have to hand in. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const asked = await readJson(request, NewReminder);
    return json({ reminded: await remindByHand(app, grant, asked, Date.now()) });
  },
);
