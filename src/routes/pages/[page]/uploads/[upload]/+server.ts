import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { onCopy } from '$server/attached/receive-on-copy';
import { answerDrop, answerHead, answerPiece } from '$server/attached/tus-answers';

/** How much of a file is here. */
export const HEAD = allowOnPage('do own work', ({ params }: RequestEvent, { app, grant }) =>
  answerHead(app, onCopy(app, grant), params.upload ?? ''),
);

/** Takes in the next piece. */
export const PATCH = allowOnPage(
  'do own work',
  ({ request, params }: RequestEvent, { app, grant }) =>
    answerPiece(app, onCopy(app, grant), params.upload ?? '', request),
);

/** Gives up a file that is on its way. */
export const DELETE = allowOnPage('do own work', ({ params }: RequestEvent, { app, grant }) =>
  answerDrop(app, onCopy(app, grant), params.upload ?? ''),
);
