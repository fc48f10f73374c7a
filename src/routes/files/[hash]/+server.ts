import { error, type RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { readPicture } from '$server/file/files';

/** A picture of the person's school. Its name is the hash of its bytes: nobody knows it who was not shown it. */
export const GET = allowPerson(
  'be signed in',
  async ({ params }: RequestEvent, { app, person }) => {
    const file = await readPicture(app.db, person.school_id, params.hash ?? '');
    if (!file) error(404, 'There is no such picture.');
    return new Response(new Uint8Array(file.bytes), {
      headers: {
        'content-type': file.type,
        'cache-control': 'private, max-age=31536000, immutable',
        'content-security-policy': "default-src 'none'",
      },
    });
  },
);
