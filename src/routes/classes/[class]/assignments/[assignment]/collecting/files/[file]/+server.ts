import type { RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { openCollected } from '$server/collecting/read-collecting';
import { sendFile } from '$server/http/send-file';

/** A file that was collected, to be looked at. */
export const GET = allowOnAssignment(
  'run the assignment',
  async ({ request, params }: RequestEvent, { app, grant }) =>
    sendFile(request, await openCollected(app, grant, params.file ?? '')),
);
