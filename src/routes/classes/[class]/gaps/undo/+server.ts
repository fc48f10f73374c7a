import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { ToUndo, undoMending } from '$server/headcount/mend';
import { readJson } from '$server/http/body';

/** Undoes what closed gaps. */
export const POST = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { undo } = await readJson(request, ToUndo);
    await undoMending(app, grant, undo);
    return json({});
  },
);
