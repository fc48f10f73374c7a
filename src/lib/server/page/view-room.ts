import type { Grant } from '../access/grant';
import type { Using } from '../services';

/** A page as it is shown to the whole room by who keeps it. */
export async function viewRoom(app: Using<'pages'>, { thing }: Grant<'manage the page'>) {
  const { version, doc } = await app.pages.open(thing.id);
  return { page: thing.id, title: thing.title, version, doc: doc.toJSON() as object };
}
