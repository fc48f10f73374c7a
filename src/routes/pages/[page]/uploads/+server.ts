import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { beginUpload } from '$server/attached/uploads';
import { nameOf, tusAnswer, wholeOf } from '$server/http/tus';

/** Begins a file that comes in pieces, and is attached to the copy when it is whole. */
export const POST = allowOnPage(
  'do own work',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const file = { name: nameOf(request), size: wholeOf(request, 'upload-length') };
    const { id } = await beginUpload(app, grant, file);
    return tusAnswer(201, { location: `/pages/${params.page}/uploads/${id}` });
  },
);
