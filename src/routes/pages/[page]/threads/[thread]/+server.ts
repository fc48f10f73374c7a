import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { addComment, readOpenMargin } from '$server/copy/threads';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

const NewComment = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('said'),
    text: z.string().trim().min(1).max(5000),
    keptBack: z.boolean().default(false),
  }),
  z.object({
    kind: z.enum(['settled', 'opened again']),
    text: z.literal('').default(''),
    keptBack: z.literal(false).default(false),
  }),
]);

export const POST = allowOnPage(
  'comment',
  async ({ request, params }: RequestEvent, { app, person, grant }) => {
    const comment = await readJson(request, NewComment);
    await app.limits.count('comment', person.id);
    const thread = z.uuid().safeParse(params.thread);
    if (!thread.success) throw new Refusal(404, 'This thread does not exist any more.');
    await addComment(app, grant, thread.data, comment);
    return json(await readOpenMargin(app, grant), { status: 201 });
  },
);
