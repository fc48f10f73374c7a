import type { RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { downloadTakeHome } from '$server/archive/archives';

/** A student's own work in a class, as a zip archive. */
export const GET = allowInClass('see own workbook', async (_event: RequestEvent, { app, grant }) =>
  downloadTakeHome(app.db, grant),
);
