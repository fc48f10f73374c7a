import type { RequestEvent } from '@sveltejs/kit';
import { CommentId } from '$core/copy/comment-id';
import { allowOnPage } from '$server/access/allow';
import { openSaid } from '$server/copy/said-files';
import { sendFile } from '$server/http/send-file';
import { Refusal } from '$server/page/refusal';

/** The picture of a comment, or what was spoken. */
export const GET = allowOnPage(
  'read the comments',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const id = CommentId.safeParse(params.comment);
    if (!id.success) throw new Refusal(404, 'There is no such comment.');
    return sendFile(request, await openSaid(app, grant, id.data));
  },
);
