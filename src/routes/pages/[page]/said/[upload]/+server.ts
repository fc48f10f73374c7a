import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { answerDrop, answerHead, answerPiece } from '$server/attached/tus-answers';
import { openWaiting, withComment } from '$server/copy/said-files';
import { sendFile } from '$server/http/send-file';

/** The file itself, while it waits for the words of its comment. */
export const GET = allowOnPage(
  'comment',
  async ({ request, params }: RequestEvent, { app, grant }) =>
    sendFile(request, await openWaiting(app, grant, params.upload ?? '')),
);

/** How much of a file is here. */
export const HEAD = allowOnPage('comment', ({ params }: RequestEvent, { app, grant }) =>
  answerHead(app, withComment(app, grant), params.upload ?? ''),
);

/** Takes in the next piece. */
export const PATCH = allowOnPage('comment', ({ request, params }: RequestEvent, { app, grant }) =>
  answerPiece(app, withComment(app, grant), params.upload ?? '', request),
);

/** Gives up a file that is on its way. */
export const DELETE = allowOnPage('comment', ({ params }: RequestEvent, { app, grant }) =>
  answerDrop(app, withComment(app, grant), params.upload ?? ''),
);
