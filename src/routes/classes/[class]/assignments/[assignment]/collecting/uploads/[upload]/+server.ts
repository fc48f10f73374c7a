import type { RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { answerDrop, answerHead, answerPiece } from '$server/attached/tus-answers';
import { collecting } from '$server/collecting/receive';

/** How much of a file is here. */
export const HEAD = allowOnAssignment(
  'run the assignment',
  ({ params }: RequestEvent, { app, grant }) =>
    answerHead(app, collecting(app, grant), params.upload ?? ''),
);

/** Takes in the next piece. */
export const PATCH = allowOnAssignment(
  'run the assignment',
  ({ request, params }: RequestEvent, { app, grant }) =>
    answerPiece(app, collecting(app, grant), params.upload ?? '', request),
);

/** Gives up a file that is on its way. */
export const DELETE = allowOnAssignment(
  'run the assignment',
  ({ params }: RequestEvent, { app, grant }) =>
    answerDrop(app, collecting(app, grant), params.upload ?? ''),
);
