import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { viewHistory } from '$server/history/look-back';
import { nameVersion, putBack } from '$server/history/put-back';
import { readJson } from '$server/http/body';

/** How a copy was written. */
export const GET = allowOnPage('look back', async (_event: RequestEvent, { app, grant }) =>
  json(await viewHistory(app, grant)),
);

const version = z.int().min(0);
const HistoryMove = z.discriminatedUnion('move', [
  z.object({ move: z.literal('put back'), version }),
  z.object({
    move: z.literal('name'),
    version,
    name: z
      .string()
      .trim()
      .min(1, 'Give this version a name, to find it again.')
      .max(100, 'The name has at most 100 characters.'),
  }),
]);

export const POST = allowOnPage('put back', async ({ request }: RequestEvent, { app, grant }) => {
  const asked = await readJson(request, HistoryMove);
  if (asked.move === 'put back') return json(await putBack(app, grant, asked.version));
  await nameVersion(app, grant, asked);
  return json({});
});
