import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { answerBegin } from '$server/attached/tus-answers';
import { withComment } from '$server/copy/said-files';

/** Begins a picture or a recording that goes with a comment. */
export const POST = allowOnPage('comment', ({ request, url }: RequestEvent, { app, grant }) =>
  answerBegin(app, withComment(app, grant), request, url.pathname),
);
