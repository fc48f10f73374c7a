import { error, type RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { openPicture } from '$server/file/files';

/** A picture that the person sent, or may see on some page. */
export const GET = allowPerson('be signed in', async ({ params }: RequestEvent, { app, grant }) => {
  const file = await openPicture(app, grant, params.hash ?? '');
  if (!file) error(404, 'There is no such picture.');
  return new Response(new Uint8Array(file.bytes), {
    headers: {
      'content-type': file.type,
      'cache-control': 'private, max-age=31536000, immutable',
      'content-security-policy': "default-src 'none'",
    },
  });
});
