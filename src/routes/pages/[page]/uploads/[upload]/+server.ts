import type { RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { dropUpload, MOST_PIECE, readUpload, takePiece } from '$server/attached/uploads';
import { checkPiece, tusAnswer, wholeOf } from '$server/http/tus';
import { Refusal } from '$server/page/refusal';

/** How much of a file is here. */
export const HEAD = allowOnPage('do own work', async ({ params }: RequestEvent, { app, grant }) => {
  const { size, received } = await readUpload(app, grant, params.upload ?? '');
  return tusAnswer(200, { 'upload-offset': String(received), 'upload-length': String(size) });
});

/** Takes in the next piece. */
export const PATCH = allowOnPage(
  'do own work',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    checkPiece(request);
    if (Number(request.headers.get('content-length') ?? 0) > MOST_PIECE)
      throw new Refusal(413, 'This piece is too large.');
    const at = wholeOf(request, 'upload-offset');
    const bytes = Buffer.from(await request.arrayBuffer());
    if (bytes.length > MOST_PIECE) throw new Refusal(413, 'This piece is too large.');
    const received = await takePiece(app, grant, params.upload ?? '', { at, bytes });
    return tusAnswer(204, { 'upload-offset': String(received) });
  },
);

/** Gives up a file that is on its way. */
export const DELETE = allowOnPage(
  'do own work',
  async ({ params }: RequestEvent, { app, grant }) => {
    await dropUpload(app, grant, params.upload ?? '');
    return tusAnswer(204);
  },
);
