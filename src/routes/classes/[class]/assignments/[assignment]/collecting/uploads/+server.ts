import type { RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { answerBegin } from '$server/attached/tus-answers';
import { collecting } from '$server/collecting/receive';

/** Begins a file that comes in pieces, and waits to be collected when it is whole. */
export const POST = allowOnAssignment(
  'run the assignment',
  ({ request, url }: RequestEvent, { app, grant }) =>
    answerBegin(app, collecting(app, grant), request, url.pathname),
);
