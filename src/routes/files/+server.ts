import { json, type RequestEvent } from '@sveltejs/kit';
import { allowPerson } from '$server/access/allow';
import { savePicture } from '$server/file/files';

/** Takes the bytes of one picture; answers the name by which pages show it. */
export const POST = allowPerson(
  'be signed in',
  async ({ request }: RequestEvent, { app, person }) => {
    const bytes = Buffer.from(await request.arrayBuffer());
    await app.limits.count('picture', person.id, Math.ceil(bytes.length / 1000));
    return json({ file: await savePicture(app.db, bytes, person) }, { status: 201 });
  },
);
