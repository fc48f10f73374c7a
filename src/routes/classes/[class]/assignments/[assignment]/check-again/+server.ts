import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { checkAgain, previewCheckAgain } from '$server/copy/check-again';

/** Who would have other points by the answer keys as they are now. */
export const GET = allowOnAssignment(
  'run the assignment',
  async (_event: RequestEvent, { app, grant }) => json(await previewCheckAgain(app, grant)),
);

export const POST = allowOnAssignment(
  'run the assignment',
  async (_event: RequestEvent, { app, grant }) => json({ changed: await checkAgain(app, grant) }),
);
