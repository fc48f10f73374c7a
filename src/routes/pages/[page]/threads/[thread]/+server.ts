import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { CommentId } from '$core/copy/comment-id';
import { allowOnPage } from '$server/access/allow';
import { addComment, readOpenMargin } from '$server/copy/threads';
import { setWithdrawn } from '$server/copy/withdraw-comment';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

const Said = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('said'),
    text: z.string().trim().min(1).max(5000),
    keptBack: z.boolean().default(false),
    file: z.uuid().nullable().default(null),
    instead: CommentId.nullable().default(null),
  }),
  z.object({ kind: z.enum(['withdrawn', 'brought back']), comment: CommentId }),
  z.object({
    kind: z.enum(['settled', 'opened again']),
    text: z.literal('').default(''),
    keptBack: z.literal(false).default(false),
  }),
]);

export const POST = allowOnPage(
  'comment',
  async ({ request, params }: RequestEvent, { app, person, grant }) => {
    const said = await readJson(request, Said);
    await app.limits.count('comment', person.id);
    const thread = z.uuid().safeParse(params.thread);
    if (!thread.success) throw new Refusal(404, 'This thread does not exist any more.');
    if ('comment' in said) await setWithdrawn(app, grant, said.comment, said.kind === 'withdrawn');
    else await addComment(app, grant, thread.data, said);
    return json(await readOpenMargin(app, grant), { status: 201 });
  },
);
