import type { RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { downloadArchive } from '$server/archive/archives';

/** The archive of a class, as a zip archive. */
export const GET = allowInClass(
  'download the archive',
  async (_event: RequestEvent, { app, grant }) => downloadArchive(app.db, grant),
);
