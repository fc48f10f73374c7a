import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { putExampleAway, viewExample } from '$server/copy/examples';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

function idOf({ params }: RequestEvent): string {
  const id = z.uuid().safeParse(params.example);
  if (!id.success) throw new Refusal(404, 'There is no such example.');
  return id.data;
}

/** An example with its page, without names. */
export const GET = allowOnAssignment(
  'mark its copies',
  async (event: RequestEvent, { app, grant }) => json(await viewExample(app, grant, idOf(event))),
);

/** Takes it away, or brings it back. */
export const POST = allowOnAssignment(
  'mark its copies',
  async (event: RequestEvent, { app, grant }) => {
    const { away } = await readJson(event.request, z.strictObject({ away: z.boolean() }));
    await putExampleAway(app, grant, idOf(event), away);
    return json({});
  },
);
