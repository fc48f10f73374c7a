import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { onCopy } from '$server/attached/receive-on-copy';
import { answerBegin } from '$server/attached/tus-answers';

/** Begins a file that comes in pieces, and is attached to the copy when it is whole. */
export const POST = allowOnPage('do own work', ({ request, url }: RequestEvent, { app, grant }) =>
  answerBegin(app, onCopy(app, grant), request, url.pathname),
);
