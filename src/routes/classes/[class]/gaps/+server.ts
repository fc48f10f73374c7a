import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { findElsewhere } from '$server/headcount/elsewhere';
import { mendGaps, ToMend } from '$server/headcount/mend';
import { readJson } from '$server/http/body';

/** The gaps for which students' pages are gone through: read behind the board. */
export const GET = allowInClass('see the class', async (_event: RequestEvent, { app, grant }) =>
  json(await findElsewhere(app.db, grant)),
);

/** Closes gaps, each by a deed that fits it. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { gaps } = await readJson(request, ToMend);
    return json(await mendGaps(app, grant, gaps));
  },
);
