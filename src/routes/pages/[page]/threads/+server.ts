import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { Spot } from '$core/attached/spot';
import { Stamp } from '$core/stamps/stamp';
import { allowOnPage } from '$server/access/allow';
import { beginThread, readOpenMargin } from '$server/copy/threads';
import { readJson } from '$server/http/body';

const place = z.number().int().min(0).max(1_000_000);
const NewThread = z.object({
  text: z.string().trim().min(1, 'a comment needs words').max(5000),
  anchor: z
    .object({ from: place, to: place, version: z.number().int().min(0) })
    .refine(({ from, to }) => from < to, 'a comment is tied to at least one character')
    .nullable(),
  on: z
    .strictObject({ attachment: z.uuid(), spot: Spot, quote: z.string().max(300).default('') })
    .nullable()
    .default(null),
  keptBack: z.boolean().default(false),
  staffOnly: z.boolean().default(false),
  stamp: Stamp.nullable().default(null),
  criterion: z.string().max(40).nullable().default(null),
  file: z.uuid().nullable().default(null),
});

export const GET = allowOnPage('read the comments', async (_event: RequestEvent, { app, grant }) =>
  json(await readOpenMargin(app, grant)),
);

export const POST = allowOnPage(
  'comment',
  async ({ request }: RequestEvent, { app, person, grant }) => {
    const thread = await readJson(request, NewThread);
    await app.limits.count('comment', person.id);
    await beginThread(app, grant, thread);
    return json(await readOpenMargin(app, grant), { status: 201 });
  },
);
