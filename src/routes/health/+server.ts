import { json, type RequestEvent } from '@sveltejs/kit';
import { sql } from 'kysely';
import { allowAnyone } from '$server/access/allow';

/** Whether this process and its database answer. */
export const GET = allowAnyone('enter', async (_event: RequestEvent, { app }) => {
  try {
    await sql`select 1`.execute(app.db);
    return json({ status: 'well' });
  } catch {
    return json({ status: 'the database does not answer' }, { status: 503 });
  }
});
